/**
 * Turns HTML as word processors put it on the clipboard into plain headings, lists, tables and pictures that the page
 * schema reads. Works on a detached document, where nothing runs and nothing is fetched. What the schema does not
 * know is dropped by the schema itself; this only mends what would be read wrongly.
 */

/** The pictures of pasted HTML that carry their own bytes, and how many only point elsewhere. */
export function pastedPictures(body: HTMLElement): { carried: string[]; elsewhere: number } {
  const carried: string[] = [];
  let elsewhere = 0;
  for (const picture of body.querySelectorAll('img:not([data-file])')) {
    const source = picture.getAttribute('src') ?? '';
    if (/^data:image\/(png|jpeg|gif|webp);base64,/i.test(source)) carried.push(source);
    else elsewhere += 1;
  }
  return { carried: [...new Set(carried)], elsewhere };
}

function unwrap(element: Element) {
  element.replaceWith(...element.childNodes);
}

function rename(element: Element, tag: string): Element {
  const renamed = element.ownerDocument.createElement(tag);
  renamed.append(...element.childNodes);
  element.replaceWith(renamed);
  return renamed;
}

/** Titles and headings that are only a paragraph's style: class "MsoTitle", "heading 2", style "mso-outline-level:2". */
function mendHeadings(body: HTMLElement) {
  for (const paragraph of body.querySelectorAll('p')) {
    const outline = /mso-outline-level:\s*(\d)/.exec(paragraph.getAttribute('style') ?? '')?.[1];
    const named = /^(?:Mso)?(?:Title|Heading\s?(\d))/i.exec(paragraph.className);
    const level = outline ?? named?.[1] ?? (named ? '1' : null);
    if (level) rename(paragraph, `h${Math.min(3, Math.max(1, Number(level)))}`);
  }
}

interface Item {
  level: number;
  ordered: boolean;
  element: Element;
}

/** A list that is only paragraphs with a drawn bullet: style "mso-list:l0 level2 lfo1" and a span that holds the sign. */
function readItem(paragraph: Element): Item | null {
  const style = paragraph.getAttribute('style') ?? '';
  const level = /mso-list:\s*\S+\s+level(\d+)/i.exec(style)?.[1];
  if (!level) return null;
  const signs = [...paragraph.querySelectorAll('span')].filter((span) =>
    /mso-list:\s*ignore/i.test(span.getAttribute('style') ?? ''),
  );
  const sign = signs
    .map((span) => span.textContent ?? '')
    .join('')
    .trim();
  for (const span of signs) span.remove();
  // Read once: the paragraph stands in its list from now on.
  paragraph.removeAttribute('style');
  return {
    level: Number(level),
    ordered: /^\(?([0-9]+|[a-z]|[ivxlc]+)[.)]/i.test(sign),
    element: paragraph,
  };
}

function mendLists(body: HTMLElement) {
  for (const first of [...body.querySelectorAll('p')]) {
    const item = readItem(first);
    if (!item) continue;
    const items: Item[] = [item];
    for (let next = first.nextElementSibling; next?.tagName === 'P';) {
      const following = readItem(next);
      if (!following) break;
      items.push(following);
      next = next.nextElementSibling;
    }
    const place = body.ownerDocument.createComment('list');
    first.before(place);
    const open: { level: number; list: Element }[] = [];
    for (const { level, ordered, element } of items) {
      while (open.length > 1 && (open.at(-1)?.level ?? 0) > level) open.pop();
      if (open.length === 0 || (open.at(-1)?.level ?? 0) < level) {
        const list = body.ownerDocument.createElement(ordered ? 'ol' : 'ul');
        const within = open.at(-1)?.list.lastElementChild;
        if (within) within.append(list);
        else place.after(list);
        open.push({ level, list });
      }
      const entry = body.ownerDocument.createElement('li');
      entry.append(element);
      open.at(-1)?.list.append(entry);
    }
    place.remove();
  }
}

/** A list whose nested list stands beside its item rather than in it. */
function mendNesting(body: HTMLElement) {
  for (const list of body.querySelectorAll('ul > ul, ul > ol, ol > ul, ol > ol'))
    list.previousElementSibling?.append(list);
}

/**
 * Mends the HTML in place.
 * @param files the SHA-256 names of the pictures that came along, by their `src`
 */
export function cleanPasted(body: HTMLElement, files: ReadonlyMap<string, string>): void {
  for (const picture of body.querySelectorAll('img:not([data-file])')) {
    const file = files.get(picture.getAttribute('src') ?? '');
    picture.removeAttribute('src');
    if (file) picture.setAttribute('data-file', file);
    else picture.remove();
  }
  for (const space of body.querySelectorAll('*'))
    if (space.tagName.includes(':')) {
      if (space.textContent?.trim()) unwrap(space);
      else space.remove();
    }
  mendHeadings(body);
  mendLists(body);
  mendNesting(body);
  for (const paragraph of body.querySelectorAll('p')) {
    if (paragraph.textContent?.trim() || paragraph.querySelector('[data-tex]')) continue;
    // A picture stands by itself on a page. Empty paragraphs only make room, and a page has margins for that.
    if (paragraph.querySelector('img')) unwrap(paragraph);
    else if (!paragraph.previousElementSibling && !paragraph.nextElementSibling)
      paragraph.textContent = '';
    else paragraph.remove();
  }
}
