import { JSDOM } from 'jsdom';
import katex from 'katex';
import { describe, expect, it } from 'vitest';
import { texFromOmml } from './omml-tex';

const M = 'http://schemas.openxmlformats.org/officeDocument/2006/math';
const W = 'http://schemas.openxmlformats.org/wordprocessingml/2006/main';
function tex(inner: string): string | null {
  const { document } = new JSDOM(`<m:oMath xmlns:m="${M}" xmlns:w="${W}">${inner}</m:oMath>`, {
    contentType: 'application/xml',
  }).window;
  return texFromOmml(document.documentElement);
}
const r = (text: string) =>
  `<m:r><w:rPr><w:i/></w:rPr><m:t xml:space="preserve">${text}</m:t></m:r>`;
const el = (name: string, ...inner: string[]) => `<m:${name}>${inner.join('')}</m:${name}>`;
const set = (name: string, ...values: [string, string][]) =>
  el(`${name}Pr`, ...values.map(([key, value]) => `<m:${key} m:val="${value}"/>`));
const e = (...inner: string[]) => el('e', ...inner);

/** Elements and their properties as ECMA-376-1, 22.1, names them. What they come to in TeX: worked by hand. */
const CASES: [string, string, string][] = [
  ['a fraction', el('f', el('num', r('a')), el('den', r('b+1'))), '\\frac{a}{b+1}'],
  [
    'a fraction on one line',
    el('f', set('f', ['type', 'lin']), el('num', r('a')), el('den', r('b'))),
    '{a}/{b}',
  ],
  [
    'two numbers over each other',
    el('d', e(el('f', set('f', ['type', 'noBar']), el('num', r('n')), el('den', r('k'))))),
    '\\left( \\genfrac{}{}{0pt}{}{n}{k} \\right)',
  ],
  ['a power', el('sSup', e(r('x')), el('sup', r('2'))), '{x}^{2}'],
  ['an index', el('sSub', e(r('h')), el('sub', r('max'))), '{h}_{\\max }'],
  ['both', el('sSubSup', e(r('x')), el('sub', r('i')), el('sup', r('2'))), '{x}_{i}^{2}'],
  ['a square root', el('rad', set('rad', ['degHide', '1']), el('deg'), e(r('2'))), '\\sqrt{2}'],
  ['a cube root', el('rad', el('deg', r('3')), e(r('x'))), '\\sqrt[3]{x}'],
  [
    'a sum',
    el('nary', set('nary', ['chr', '∑']), el('sub', r('i=1')), el('sup', r('n')), e(r('i'))),
    '\\sum_{i=1}^{n} {i}',
  ],
  ['an integral, which needs no sign', el('nary', el('sub'), el('sup'), e(r('f'))), '\\int {f}'],
  [
    'brackets, one of them open',
    el('d', set('d', ['begChr', '{'], ['endChr', '']), e(r('a'))),
    '\\left\\{ a \\right.',
  ],
  ['a function', el('func', el('fName', r('sin')), e(r('θ'))), '\\sin {θ}'],
  ['an arrow over a letter', el('acc', set('acc', ['chr', '\u20d7']), e(r('v'))), '\\vec{v}'],
  ['a line over', el('bar', set('bar', ['pos', 'top']), e(r('x'))), '\\overline{x}'],
  [
    'a matrix',
    el('m', el('mr', e(r('1')), e(r('0'))), el('mr', e(r('0')), e(r('1')))),
    '\\begin{matrix}1 & 0 \\\\ 0 & 1\\end{matrix}',
  ],
  ['words', `<m:r><m:rPr><m:nor/></m:rPr><m:t>if so</m:t></m:r>`, '\\text{if so}'],
  ['signs that TeX would take otherwise', r('5% &amp; #1_a ≤ −2'), '5\\% \\& \\#1\\_a ≤ -2'],
];

describe('a word processor’s formula', () => {
  it.each(CASES)('becomes TeX: %s', (_, omml, wanted) => {
    expect(tex(omml)).toBe(wanted);
    // KaTeX, which shows it, reads it.
    expect(katex.renderToString(wanted, { throwOnError: true, strict: false })).toContain('katex');
  });

  it('is left when it holds what cannot be written', () => {
    expect(tex(el('odd', e(r('x'))))).toBeNull();
    expect(tex(el('acc', set('acc', ['chr', '\u0338']), e(r('x'))))).toBeNull();
    expect(tex('')).toBeNull();
  });
});
