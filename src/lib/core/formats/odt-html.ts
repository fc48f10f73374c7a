/**
 * An OpenDocument text (OASIS OpenDocument 1.3, part 3) as plain HTML, as far as a page can hold it: headings, paragraphs,
 * lists, tables, links, pictures, bold, italic and underlined words.
 */

interface Look {
  strong: boolean;
  emphasis: boolean;
  underline: boolean;
}

export interface OdtHtml {
  html: string;
  /** What was met that has no place on a page, in words. */
  left: string[];
}

const escaped = (text: string) =>
  text.replace(
    /[&<>"]/g,
    (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[sign] ?? '',
  );

const attribute = (element: Element, name: string) => element.getAttribute(name) ?? '';
const within = (element: Element, name: string) => [...element.getElementsByTagName(name)];

function readLooks(content: Document): Map<string, Look> {
  const looks = new Map<string, Look>();
  for (const style of within(content.documentElement, 'style:style')) {
    const text = within(style, 'style:text-properties')[0];
    if (!text) continue;
    const underline = attribute(text, 'style:text-underline-style');
    looks.set(attribute(style, 'style:name'), {
      strong: attribute(text, 'fo:font-weight') === 'bold',
      emphasis: attribute(text, 'fo:font-style') === 'italic',
      underline: underline !== '' && underline !== 'none',
    });
  }
  return looks;
}

/** The names of list styles whose first level counts. */
function readCounting(content: Document): Set<string> {
  return new Set(
    within(content.documentElement, 'text:list-style')
      .filter((style) => style.firstElementChild?.tagName === 'text:list-level-style-number')
      .map((style) => attribute(style, 'style:name')),
  );
}

/** @param content the parsed `content.xml` @param picture the `src` for a picture of the package */
export function htmlFromOdt(content: Document, picture: (path: string) => string): OdtHtml {
  const looks = readLooks(content);
  const counting = readCounting(content);
  const met = new Map<string, number>();
  const meet = (what: string) => void met.set(what, (met.get(what) ?? 0) + 1);

  function inside(element: Element, inCounting = false): string {
    let html = '';
    for (const child of element.childNodes) {
      if (child.nodeType === 3) html += escaped(child.textContent ?? '');
      else if (child.nodeType === 1) html += convert(child as Element, inCounting);
    }
    return html;
  }

  function looked(element: Element): string {
    const look = looks.get(attribute(element, 'text:style-name'));
    let html = inside(element);
    if (look?.underline) html = `<u>${html}</u>`;
    if (look?.emphasis) html = `<em>${html}</em>`;
    return look?.strong ? `<strong>${html}</strong>` : html;
  }

  function convert(element: Element, inCounting: boolean): string {
    switch (element.tagName) {
      case 'text:h': {
        const level = Math.min(
          6,
          Math.max(1, Number(attribute(element, 'text:outline-level')) || 1),
        );
        return `<h${level}>${inside(element)}</h${level}>`;
      }
      case 'text:p': {
        const named = /^(Title|Subtitle)$/.exec(attribute(element, 'text:style-name'))?.[1];
        return named ? `<h1>${inside(element)}</h1>` : `<p>${looked(element)}</p>`;
      }
      case 'text:span':
        return looked(element);
      case 'text:list': {
        const style = attribute(element, 'text:style-name');
        const counts = style ? counting.has(style) : inCounting;
        const tag = counts ? 'ol' : 'ul';
        return `<${tag}>${inside(element, counts)}</${tag}>`;
      }
      case 'text:list-item':
      case 'text:list-header':
        return `<li>${inside(element, inCounting)}</li>`;
      case 'table:table':
        return `<table>${inside(element)}</table>`;
      case 'table:table-row':
        return `<tr>${inside(element)}</tr>`;
      case 'table:table-cell': {
        const across = Number(attribute(element, 'table:number-columns-spanned')) || 1;
        const down = Number(attribute(element, 'table:number-rows-spanned')) || 1;
        return `<td colspan="${Math.min(across, 100)}" rowspan="${Math.min(down, 1000)}">${inside(element)}</td>`;
      }
      case 'text:a':
        return `<a href="${escaped(attribute(element, 'xlink:href'))}">${inside(element)}</a>`;
      case 'text:s':
        return ' '.repeat(Math.min(20, Number(attribute(element, 'text:c')) || 1));
      case 'text:tab':
        return ' ';
      case 'text:line-break':
        return '<br>';
      case 'draw:image':
        return `<img src="${escaped(picture(attribute(element, 'xlink:href')))}" alt="${escaped(
          within(element.parentElement ?? element, 'svg:desc')[0]?.textContent ?? '',
        )}">`;
      case 'draw:object':
      case 'draw:object-ole':
      case 'draw:plugin':
        return (meet('an embedded object'), '');
      case 'office:annotation':
        return (meet('a comment'), '');
      case 'text:note':
        meet('a footnote, now in brackets');
        return ` (${within(element, 'text:note-body')[0]?.textContent?.trim() ?? ''})`.replace(
          /[<>&]/g,
          ' ',
        );
      case 'text:tracked-changes':
        return (meet('a record of changes'), '');
      case 'svg:desc':
      case 'svg:title':
      case 'office:forms':
      case 'text:sequence-decls':
      case 'table:covered-table-cell':
        return '';
      default:
        return inside(element, inCounting);
    }
  }

  const body = within(content.documentElement, 'office:text')[0];
  const html = body ? inside(body) : '';
  const left = [...met].map(([what, n]) => (n === 1 ? what : `${what}, ${n} times`));
  return { html, left };
}
