import { JSDOM } from 'jsdom';
import JSZip from 'jszip';
import katex from 'katex';
import { escape } from '$core/archive/html';
import { texFromOmml } from '$core/formats/omml-tex';

const BODY = 'word/document.xml';
const MATH = 'http://schemas.openxmlformats.org/officeDocument/2006/math';
const WORDS = 'http://schemas.openxmlformats.org/wordprocessingml/2006/main';
/** As long as a formula of a page may be. */
const MOST_TEX = 2000;

/** Where a formula stood: signs that no document has (Unicode's private use). */
const markOf = (index: number) => `\uE0F0${index}\uE0F1`;
const MARK = /\uE0F0(\d+)\uE0F1/g;

/** @returns TeX that a page can show, or null */
function readable(formula: Element): string | null {
  const tex = texFromOmml(formula);
  if (tex === null || tex.length > MOST_TEX) return null;
  try {
    katex.renderToString(tex, { throwOnError: true, strict: false });
    return tex;
  } catch {
    return null;
  }
}

/**
 * A .docx whose formulas are marks in its text, as far as they can become ours.
 * @param xml its document
 * @returns the .docx, how many of its formulas stay behind, and what puts the others into its HTML
 */
export async function markFormulas(bytes: Buffer, xml: string) {
  const untouched = { bytes, left: 0, place: (html: string) => html };
  if (!xml.includes('oMath') || xml.includes('<!DOCTYPE')) return untouched;
  const dom = new JSDOM(xml, { contentType: 'application/xml' });
  const { document } = dom.window;
  const formulas: string[] = [];
  let left = 0;
  for (const formula of [...document.getElementsByTagNameNS(MATH, 'oMath')]) {
    const tex = readable(formula);
    const run = document.createElementNS(WORDS, 'w:r');
    const text = document.createElementNS(WORDS, 'w:t');
    // Of one that stays behind, the signs stay.
    text.textContent = tex === null ? formula.textContent : markOf(formulas.push(tex) - 1);
    if (tex === null) left += 1;
    run.append(text);
    // On a line of its own it stands in a paragraph of formulas, which is none of the text.
    const line = formula.parentElement;
    if (line?.localName === 'oMathPara') line.before(run);
    else formula.before(run);
    formula.remove();
  }
  const written = new dom.window.XMLSerializer().serializeToString(document);
  dom.window.close();
  const zip = await JSZip.loadAsync(bytes);
  zip.file(BODY, written);
  return {
    bytes: await zip.generateAsync({ type: 'nodebuffer' }),
    left,
    place: (html: string) =>
      html.replace(MARK, (mark, index: string) => {
        const tex = formulas[Number(index)];
        return tex === undefined ? mark : `<span data-tex="${escape(tex)}"></span>`;
      }),
  };
}
