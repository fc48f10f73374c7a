import { DOMParser as PageParser, type Node } from 'prosemirror-model';
import { schema } from '../page/schema';
import { cleanPasted } from './pasted-html';

/** What a page has no place for, by the elements that hold it, in words for one and for several. */
const UNSUPPORTED: [string, string, string][] = [
  ['script', 'a script', 'scripts'],
  ['iframe, frame, object, embed, applet', 'an embedded page', 'embedded pages'],
  ['video', 'a film', 'films'],
  ['audio', 'a sound', 'sounds'],
  ['svg, canvas', 'a drawing', 'drawings'],
  ['form, input, select, textarea, button', 'a form field', 'form fields'],
  ['math', 'a formula in another notation', 'formulas in another notation'],
];

export interface Imported {
  page: Node;
  /** What stayed behind, in words, such as "2 films". */
  left: string[];
}

/**
 * Reads a document's HTML as a page of our schema. What the schema has no place for is counted and named; its text stays.
 * @param body of a detached document; changed on the way
 * @param files the SHA-256 names of the pictures that came along, by their `src`
 */
export function pageFromHtml(body: HTMLElement, files: ReadonlyMap<string, string>): Imported {
  const left: string[] = [];
  const say = (n: number, one: string, several: string) => {
    if (n > 0) left.push(n === 1 ? one : `${n} ${several}`);
  };
  for (const [selector, one, several] of UNSUPPORTED) {
    const found = [...body.querySelectorAll(selector)];
    say(found.length, one, several);
    for (const element of found)
      if (
        /^(script|iframe|frame|object|embed|applet|video|audio|svg|canvas|math)$/i.test(
          element.tagName,
        )
      )
        element.remove();
  }
  const unknown = [...body.querySelectorAll('img:not([data-file])')].filter(
    (picture) => !files.has(picture.getAttribute('src') ?? ''),
  );
  say(unknown.length, 'a picture that did not come along', 'pictures that did not come along');
  const unsafe = [...body.querySelectorAll('a[href]')].filter(
    (link) => !/^(https?:\/\/|mailto:|#)/i.test(link.getAttribute('href') ?? ''),
  );
  say(unsafe.length, 'a link that leads nowhere from here', 'links that lead nowhere from here');
  cleanPasted(body, files);
  const page = PageParser.fromSchema(schema).parse(body, { preserveWhitespace: false });
  page.check();
  return { page, left };
}
