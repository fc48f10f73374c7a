import { JSDOM } from 'jsdom';
import mammoth from 'mammoth';
import markdownIt from 'markdown-it';
import { pageFromHtml, type Imported } from '$core/formats/imported-html';
import { htmlFromOdt } from '$core/formats/odt-html';
import { pastedPictures } from '$core/formats/pasted-html';
import { readZip } from '../file/zip';
import { Refusal } from '../page/refusal';
import { markFormulas } from './docx-formulas';
import { refuseTooLarge } from '../page/refuse-too-large';

export interface Document {
  name: string;
  bytes: Buffer;
}

/** Keeps a picture's bytes. @returns its name @throws Refusal when they are no picture */
export type SavePicture = (bytes: Buffer) => Promise<string>;

interface Html {
  html: string;
  left: string[];
}

/** Bytes as text: UTF-8 where they are that, else as older programs of Western Europe wrote. */
function readText(bytes: Buffer): string {
  try {
    return new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    return new TextDecoder('windows-1252').decode(bytes);
  }
}

/** What a .docx holds that does not become part of a page, by the marks of ECMA-376-1 for it: for one and for several. */
const LEFT_OF_DOCX: [RegExp, string, string][] = [
  [
    /<a:blip (?![^>]*r:embed=)[^>]*r:link=/g,
    'a picture that is only linked',
    'pictures that are only linked',
  ],
  [
    /<w:(?:ins|del|moveFrom|moveTo) /g,
    'a tracked change, taken as it would be accepted',
    'tracked changes, taken as they would be accepted',
  ],
  [/<w:commentReference /g, 'a comment', 'comments'],
];

/**
 * @param files the document and its headers and footers, by where they lie
 * @param formulas how many could not become ours
 */
function leftOfDocx(files: ReadonlyMap<string, Buffer>, formulas: number): string[] {
  const text = readText(files.get('word/document.xml') ?? Buffer.from(''));
  const left = LEFT_OF_DOCX.flatMap(([mark, one, several]) => {
    const { length } = text.match(mark) ?? [];
    return length ? [length === 1 ? one : `${length} ${several}`] : [];
  });
  if (formulas > 0)
    left.push(
      formulas === 1
        ? 'a formula of the word processor'
        : `${formulas} formulas of the word processor`,
    );
  const heads = [...files].some(
    ([name, part]) => name !== 'word/document.xml' && /<w:t[ >]/.test(readText(part)),
  );
  return heads ? [...left, 'what stands above or below every page'] : left;
}

async function fromDocx({ bytes }: Document): Promise<Html> {
  const files = await readZip(bytes, (name) =>
    /^word\/(document|header\d*|footer\d*)\.xml$/.test(name),
  );
  try {
    const formulas = await markFormulas(
      bytes,
      readText(files.get('word/document.xml') ?? Buffer.from('')),
    );
    const { value, messages } = await mammoth.convertToHtml({ buffer: formulas.bytes });
    const lost = messages.filter(({ message }) => /ignored|could not/i.test(message));
    return {
      html: formulas.place(value),
      left: [
        ...leftOfDocx(files, formulas.left),
        ...(lost.length > 0 ? ['some of the layout'] : []),
      ],
    };
  } catch {
    throw new Refusal(
      422,
      'This is not a .docx document that can be read. Please save it again as .docx.',
    );
  }
}

const dataUrl = (path: string, bytes: Buffer) => {
  const type = /\.(png|jpe?g|gif|webp)$/i.exec(path)?.[1]?.toLowerCase().replace('jpg', 'jpeg');
  return type ? `data:image/${type};base64,${bytes.toString('base64')}` : path;
};

async function fromOdt({ bytes }: Document): Promise<Html> {
  const files = await readZip(
    bytes,
    (name) => name === 'content.xml' || name.startsWith('Pictures/'),
  );
  const content = files.get('content.xml');
  if (!content) throw new Refusal(422, 'This is not an .odt document: it holds no text.');
  const text = readText(content);
  // Declared entities could grow without bound; no program writes them here.
  if (text.includes('<!DOCTYPE'))
    throw new Refusal(
      422,
      'This .odt document is of a kind that is not read here. Please save it again.',
    );
  let window;
  try {
    window = new JSDOM(text, { contentType: 'application/xml' }).window;
  } catch {
    throw new Refusal(422, 'The text of this .odt document is damaged. Please save it again.');
  }
  const read = htmlFromOdt(window.document, (path) => {
    const picture = files.get(path);
    return picture ? dataUrl(path, picture) : path;
  });
  window.close();
  return read;
}

const markdown = markdownIt({ html: false, linkify: false });

const READERS: Record<string, (document: Document) => Promise<Html>> = {
  docx: fromDocx,
  odt: fromOdt,
  md: async ({ bytes }) => ({ html: markdown.render(readText(bytes)), left: [] }),
  html: async ({ bytes }) => ({ html: readText(bytes), left: [] }),
};
READERS.htm = READERS.html as (document: Document) => Promise<Html>;
READERS.markdown = READERS.md as (document: Document) => Promise<Html>;

/**
 * Reads a document as a page. Nothing in it runs and nothing is fetched.
 * @param pictures the names of pictures that came beside it, by their file names
 * @returns the page, its title, and what stayed behind
 * @throws Refusal when it cannot be read
 */
export async function readDocument(
  document: Document,
  pictures: ReadonlyMap<string, string>,
  savePicture: SavePicture,
): Promise<Imported & { title: string }> {
  const kind = /\.([a-z]+)$/i.exec(document.name)?.[1]?.toLowerCase() ?? '';
  const reader = READERS[kind];
  if (!reader)
    throw new Refusal(
      415,
      `“${document.name}” is not a document that is read here. It takes .docx, .odt, .md and .html.`,
    );
  const { html, left } = await reader(document);
  const { window } = new JSDOM(html);
  try {
    const { body } = window.document;
    const files = new Map<string, string>();
    for (const source of pastedPictures(body).carried)
      try {
        files.set(
          source,
          await savePicture(Buffer.from(source.slice(source.indexOf(',') + 1), 'base64')),
        );
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
      }
    for (const picture of body.querySelectorAll('img')) {
      const source = picture.getAttribute('src') ?? '';
      const beside = pictures.get(decodeURIComponentSafely(source).split('/').at(-1) ?? '');
      if (beside && !/^[a-z]+:/i.test(source)) files.set(source, beside);
    }
    const heading = body.querySelector('h1')?.textContent?.replace(/\s+/g, ' ').trim();
    const named = document.name
      .replace(/\.[a-z]+$/i, '')
      .replaceAll('_', ' ')
      .trim();
    const imported = pageFromHtml(body, files);
    refuseTooLarge(imported.page);
    return {
      ...imported,
      left: [...left, ...imported.left],
      title: (heading || named || 'A page').slice(0, 300),
    };
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw new Refusal(422, `“${document.name}” could not be made into a page.`);
  } finally {
    window.close();
  }
}

function decodeURIComponentSafely(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}
