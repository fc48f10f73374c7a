/** Pages of HTML that open in any browser, without network: their style stands in them, and nothing runs. */
import { LANGUAGE } from '../language';

const SIGNS: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

/** Text as it stands in HTML, also between quotation marks. */
export const escape = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => SIGNS[sign] ?? '');

/** A link to a file beside: a path as a browser takes it. */
export const href = (path: string): string => path.split('/').map(encodeURIComponent).join('/');

const STYLE = `body{margin:0 auto;max-width:46rem;padding:2rem 1.5rem 4rem;font:1.06rem/1.55 "Literata",Georgia,serif;color:#1c2b33;background:#fff}
h1{font-size:1.7rem;line-height:1.2;margin:.2em 0}h2,h3,h4{line-height:1.25;margin:1.3em 0 .4em}
.about,.small,th{color:#4d5b62;font:.92rem/1.45 "Atkinson Hyperlegible Next",Verdana,sans-serif}
img,svg{max-width:100%;height:auto}table{border-collapse:collapse;margin:.8em 0}td,th{border:1px solid #c9c3b4;padding:.3em .6em;vertical-align:top;text-align:left}
blockquote,.instructions{margin:.8em 0;padding:.1em 1em;border-left:3px solid #c9c3b4}
.answer{margin:.6em 0;padding:.4em .8em;border:1px solid #1f5f5b;border-radius:.4em;min-height:1.5em}
.choice{padding-left:1.7em;text-indent:-1.7em}.choice>*{text-indent:0}.unit{color:#4d5b62}
section{margin-top:2.4rem;border-top:2px solid #1c2b33}details{margin:.5em 0}summary{cursor:pointer}
a{color:#1f5f5b}th[scope=row]{white-space:nowrap}.wide{max-width:none}ul.plain{list-style:none;padding:0}`;

/** A whole page. `body` is HTML already; a table that is all of it may be as wide as the window. */
export const htmlPage = (title: string, body: string, wide = false): string =>
  `<!doctype html>\n<html lang="${LANGUAGE}"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${escape(title)}</title><style>${STYLE}</style></head>\n<body${wide ? ' class="wide"' : ''}>${body}</body></html>\n`;
