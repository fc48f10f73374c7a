import { DOMParser as PageParser, Fragment, Slice, type Node } from 'prosemirror-model';
import { Plugin, type Transaction } from 'prosemirror-state';
import type { EditorView } from 'prosemirror-view';
import { isAnswer, schema } from '$core/page/schema';

/** Sends a picture to be kept. @throws Error with the server's sentence */
export async function uploadPicture(picture: Blob): Promise<string> {
  const answer = await fetch('/files', { method: 'POST', body: picture });
  const { file, message } = await answer.json();
  if (!answer.ok) throw new Error(message);
  return file;
}

const picturesOf = (items: DataTransfer | null) =>
  [...(items?.files ?? [])].filter((file) => file.type.startsWith('image/'));

async function insertPictures(
  view: EditorView,
  files: readonly Blob[],
  warn: (sentence: string) => void,
) {
  for (const picture of files)
    try {
      const file = await uploadPicture(picture);
      view.dispatch(view.state.tr.replaceSelectionWith(schema.node('picture', { file })));
    } catch (error) {
      warn(error instanceof Error ? error.message : 'The picture could not be added.');
    }
}

async function uploadCarried(sources: readonly string[], warn: (sentence: string) => void) {
  const files = new Map<string, string>();
  for (const source of sources) {
    const [head = '', bytes = ''] = source.split(',');
    const binary = Uint8Array.from(atob(bytes), (sign) => sign.charCodeAt(0));
    const type = /^data:([^;]+)/.exec(head)?.[1] ?? '';
    try {
      files.set(source, await uploadPicture(new Blob([binary], { type })));
    } catch (error) {
      warn(error instanceof Error ? error.message : 'A picture could not be added.');
    }
  }
  return files;
}

/** What was an answer elsewhere is plain writing here: answers are only made in originals. */
function withoutAnswers(fragment: Fragment): Fragment {
  const nodes: Node[] = [];
  fragment.forEach((node) => {
    if (!isAnswer(node)) nodes.push(node.isText ? node : node.copy(withoutAnswers(node.content)));
    else if (node.type.name === 'answer_writing') nodes.push(...node.content.content);
    else if (node.isTextblock) nodes.push(schema.node('paragraph', null, node.content));
    else node.forEach((option) => nodes.push(schema.node('paragraph', null, option.content)));
  });
  return Fragment.from(nodes);
}

/** What mends pasted HTML comes when the page stands, so that it is there when there is no network. */
const mending = () => import('$core/formats/pasted-html');
const MENDING_AFTER = 20_000;

interface PasteOptions {
  /** Whether answers may be pasted as answers. */
  original: boolean;
  /** Says a sentence to the person. */
  warn: (sentence: string) => void;
}

/** Pasting and dropping: pictures are uploaded, word processors' HTML is mended, nothing active gets through. */
export function pasting({ original, warn }: PasteOptions): Plugin {
  return new Plugin({
    view() {
      const timer = setTimeout(() => void mending().catch(() => undefined), MENDING_AFTER);
      return { destroy: () => clearTimeout(timer) };
    },
    props: {
      transformPasted: (slice) =>
        original ? slice : new Slice(withoutAnswers(slice.content), slice.openStart, slice.openEnd),
      handleDrop: (view, event) => {
        const pictures = picturesOf(event.dataTransfer);
        if (pictures.length === 0) return false;
        void insertPictures(view, pictures, warn);
        return true;
      },
      handlePaste: (view, event, slice) => {
        const data = event.clipboardData;
        const { parent } = view.state.selection.$from;
        if (parent.type.spec.content === 'text*') {
          const text =
            data?.getData('text/plain') || slice.content.textBetween(0, slice.content.size, ' ');
          const { code } = parent.type.spec;
          const line = code ? text : text.replace(/\s+/g, ' ').trim();
          view.dispatch(asPaste(view.state.tr.insertText(line)));
          return true;
        }
        const html = data?.getData('text/html') ?? '';
        const pictures = picturesOf(data);
        if (!html && pictures.length > 0) {
          void insertPictures(view, pictures, warn);
          return true;
        }
        // What was copied in a page is in our schema already.
        if (!html || html.includes('data-pm-slice')) return false;
        void pasteHtml(view, html, original, warn).catch(() => {
          view.dispatch(asPaste(view.state.tr.insertText(data?.getData('text/plain') ?? '')));
          warn('There is no connection, so the words alone were pasted.');
        });
        return true;
      },
    },
  });
}

/** The log tells what was pasted. */
const asPaste = (change: Transaction): Transaction => change.setMeta('uiEvent', 'paste');

async function pasteHtml(
  view: EditorView,
  html: string,
  original: boolean,
  warn: (sentence: string) => void,
) {
  const { cleanPasted, pastedPictures } = await mending();
  // A document made this way runs no script and fetches nothing.
  const { body } = new DOMParser().parseFromString(html, 'text/html');
  const { carried, elsewhere } = pastedPictures(body);
  cleanPasted(body, await uploadCarried(carried, warn));
  const slice = PageParser.fromSchema(schema).parseSlice(body, { preserveWhitespace: false });
  const content = original ? slice.content : withoutAnswers(slice.content);
  const change = view.state.tr.replaceSelection(new Slice(content, slice.openStart, slice.openEnd));
  view.dispatch(asPaste(change.scrollIntoView()));
  if (elsewhere > 0)
    warn(
      elsewhere === 1
        ? 'One picture stayed behind, because what was pasted only says where it is. Copy and paste it by itself.'
        : `${elsewhere} pictures stayed behind, because what was pasted only says where they are. Copy and paste them one by one.`,
    );
}
