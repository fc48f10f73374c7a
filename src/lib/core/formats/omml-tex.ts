/** Of ECMA-376-1, Office Open XML, 22.1: Math. */
const MATH = 'http://schemas.openxmlformats.org/officeDocument/2006/math';

/** Accents and brackets over and under, by their sign. KaTeX writes them so. */
const ACCENTS: Record<string, string> = {
  '\u0300': '\\grave',
  '\u0301': '\\acute',
  '\u0302': '\\hat',
  '^': '\\hat',
  '\u0303': '\\tilde',
  '~': '\\tilde',
  '\u0304': '\\bar',
  '\u0305': '\\overline',
  '\u0306': '\\breve',
  '\u0307': '\\dot',
  '\u0308': '\\ddot',
  '\u030c': '\\check',
  '\u20d7': '\\vec',
  '→': '\\vec',
};
const FUNCTIONS = new Set(
  'sin cos tan cot sec csc arcsin arccos arctan sinh cosh tanh log ln lg exp lim max min sup inf det gcd dim ker deg arg'.split(
    ' ',
  ),
);
const BIG: Record<string, string> = {
  '∑': '\\sum',
  '∏': '\\prod',
  '∫': '\\int',
  '∬': '\\iint',
  '∭': '\\iiint',
  '∮': '\\oint',
  '⋃': '\\bigcup',
  '⋂': '\\bigcap',
};
const ESCAPED: Record<string, string> = {
  '\\': '\\backslash ',
  '{': '\\{',
  '}': '\\}',
  '~': '\\sim ',
  '^': '\\wedge ',
  '−': '-',
  '\u00a0': '\\ ',
};
const plain = (text: string) =>
  text.replace(/[\\{}~^−\u00a0]|[$&#_%]/g, (sign) => ESCAPED[sign] ?? `\\${sign}`);

/** What has no place in TeX here. */
class NotWritten extends Error {}

const named = (of: Element, name: string): Element | undefined =>
  [...of.children].find((one) => one.namespaceURI === MATH && one.localName === name);
/** The value of a property, such as the sign of an accent; undefined where it is not said. */
function property(of: Element, name: string): string | undefined {
  const at = named(of, `${of.localName}Pr`);
  const found = at && named(at, name);
  return found ? (found.getAttributeNS(MATH, 'val') ?? '1') : undefined;
}
const isOn = (value: string | undefined) => value !== undefined && !/^(0|off|false)$/.test(value);

/** The formula in a child of that name; empty where there is none. */
function part(of: Element, name: string): string {
  const child = named(of, name);
  return child ? inner(child) : '';
}
const inner = (of: Element): string => [...of.children].map(write).join('');
const all = (of: Element, name: string) =>
  [...of.children].filter((one) => one.namespaceURI === MATH && one.localName === name);
const group = (tex: string) => `{${tex}}`;

/** A bracket as \left and \right have it; an empty one is a dot. */
const bracket = (sign: string) => (sign === '' ? '.' : /^[{}]$/.test(sign) ? `\\${sign}` : sign);

function run(of: Element): string {
  const text = all(of, 't')
    .map((one) => one.textContent ?? '')
    .join('');
  const settings = named(of, 'rPr');
  if (settings && named(settings, 'nor')) return `\\text{${text.replace(/[\\{}$&#_%~^]/g, ' ')}}`;
  return FUNCTIONS.has(text.trim()) ? `\\${text.trim()} ` : plain(text);
}

const rows = (of: readonly string[]) => of.join(' \\\\ ');

const WRITERS: Record<string, (of: Element) => string> = {
  r: run,
  oMath: inner,
  box: (of) => part(of, 'e'),
  borderBox: (of) => `\\boxed{${part(of, 'e')}}`,
  phant: (of) => `\\phantom{${part(of, 'e')}}`,
  f: (of) => {
    const [above, below] = [part(of, 'num'), part(of, 'den')];
    const kind = property(of, 'type');
    if (kind === 'lin' || kind === 'skw') return `{${above}}/{${below}}`;
    if (kind === 'noBar') return `\\genfrac{}{}{0pt}{}{${above}}{${below}}`;
    return `\\frac{${above}}{${below}}`;
  },
  sSup: (of) => `${group(part(of, 'e'))}^{${part(of, 'sup')}}`,
  sSub: (of) => `${group(part(of, 'e'))}_{${part(of, 'sub')}}`,
  sSubSup: (of) => `${group(part(of, 'e'))}_{${part(of, 'sub')}}^{${part(of, 'sup')}}`,
  sPre: (of) => `{}_{${part(of, 'sub')}}^{${part(of, 'sup')}}${group(part(of, 'e'))}`,
  rad: (of) => {
    const degree = isOn(property(of, 'degHide')) ? '' : part(of, 'deg');
    return `\\sqrt${degree ? `[${degree}]` : ''}{${part(of, 'e')}}`;
  },
  nary: (of) => {
    const sign = property(of, 'chr') ?? '∫';
    const big = BIG[sign];
    if (!big) throw new NotWritten(sign);
    const [below, above] = [part(of, 'sub'), part(of, 'sup')];
    return `${big}${below && `_{${below}}`}${above && `^{${above}}`} ${group(part(of, 'e'))}`;
  },
  d: (of) => {
    const [begin, end] = [property(of, 'begChr') ?? '(', property(of, 'endChr') ?? ')'];
    const between = property(of, 'sepChr') ?? '|';
    const parts = all(of, 'e')
      .map(inner)
      .join(` \\middle${bracket(between)} `);
    return `\\left${bracket(begin)} ${parts} \\right${bracket(end)}`;
  },
  func: (of) => `${part(of, 'fName')}${group(part(of, 'e'))}`,
  limLow: (of) => `${part(of, 'e').trim()}_{${part(of, 'lim')}}`,
  limUpp: (of) => `${part(of, 'e').trim()}^{${part(of, 'lim')}}`,
  acc: (of) => {
    const accent = ACCENTS[property(of, 'chr') ?? '\u0302'];
    if (!accent) throw new NotWritten('accent');
    return `${accent}{${part(of, 'e')}}`;
  },
  bar: (of) => `${property(of, 'pos') === 'top' ? '\\overline' : '\\underline'}{${part(of, 'e')}}`,
  groupChr: (of) => {
    const above = property(of, 'pos') === 'top';
    const sign = property(of, 'chr') ?? '⏟';
    if (sign !== '⏟' && sign !== '⏞') throw new NotWritten(sign);
    return `${above ? '\\overbrace' : '\\underbrace'}{${part(of, 'e')}}`;
  },
  m: (of) =>
    `\\begin{matrix}${rows(all(of, 'mr').map((row) => all(row, 'e').map(inner).join(' & ')))}\\end{matrix}`,
  eqArr: (of) => `\\begin{aligned}${rows(all(of, 'e').map(inner))}\\end{aligned}`,
};

/** Of what is no math, such as a bookmark, and of properties nothing is written. */
function write(of: Element): string {
  if (of.namespaceURI !== MATH || of.localName.endsWith('Pr')) return '';
  const writer = WRITERS[of.localName];
  if (!writer) throw new NotWritten(of.localName);
  return writer(of);
}

/** A word processor's formula (`m:oMath`) as TeX; null when it holds what cannot be written so. */
export function texFromOmml(formula: Element): string | null {
  try {
    return write(formula).replace(/\s+/g, ' ').trim() || null;
  } catch (error) {
    if (error instanceof NotWritten) return null;
    throw error;
  }
}
