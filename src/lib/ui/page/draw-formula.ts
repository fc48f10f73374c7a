import { MOST_EMS } from '$core/text/formulas';

/** What each element shows last, whichever of its drawings is ready first. */
const asked = new WeakMap<HTMLElement, string>();

/** Typesets a formula by KaTeX, which is fetched only where there is one; its TeX stands there until then. */
export async function drawFormula(dom: HTMLElement, tex: string): Promise<void> {
  asked.set(dom, tex);
  dom.textContent = tex;
  const [katex] = await Promise.all([import('katex'), import('katex/dist/katex.min.css')]);
  if (asked.get(dom) === tex)
    katex.default.render(tex, dom, {
      throwOnError: false,
      output: 'htmlAndMathml',
      trust: false,
      maxSize: MOST_EMS,
    });
}
