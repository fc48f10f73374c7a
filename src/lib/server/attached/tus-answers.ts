import { checkPiece, nameOf, tusAnswer, wholeOf } from '../http/tus';
import { Refusal } from '../page/refusal';
import type { Using } from '../services';
import {
  beginUpload,
  dropUpload,
  MOST_PIECE,
  readUpload,
  takePiece,
  type Receiver,
} from './uploads';

/** What routes answer by which files come in pieces. */

/** Begins a file. @param at where it goes on: the address without its id */
export async function answerBegin(
  app: Using<'db' | 'limits'>,
  to: Receiver,
  request: Request,
  at: string,
): Promise<Response> {
  const file = { name: nameOf(request), size: wholeOf(request, 'upload-length') };
  const { id } = await beginUpload(app, to, file);
  return tusAnswer(201, { location: `${at}/${id}` });
}

/** How much of a file is here. */
export async function answerHead(app: Using<'db'>, to: Receiver, id: string): Promise<Response> {
  const { size, received } = await readUpload(app, to, id);
  return tusAnswer(200, { 'upload-offset': String(received), 'upload-length': String(size) });
}

/** Takes in the next piece. */
export async function answerPiece(
  app: Using<'db'>,
  to: Receiver,
  id: string,
  request: Request,
): Promise<Response> {
  checkPiece(request);
  if (Number(request.headers.get('content-length') ?? 0) > MOST_PIECE)
    throw new Refusal(413, 'This piece is too large.');
  const at = wholeOf(request, 'upload-offset');
  const bytes = Buffer.from(await request.arrayBuffer());
  if (bytes.length > MOST_PIECE) throw new Refusal(413, 'This piece is too large.');
  const received = await takePiece(app, to, id, { at, bytes });
  return tusAnswer(204, { 'upload-offset': String(received) });
}

/** Gives up a file that is on its way. */
export async function answerDrop(app: Using<'db'>, to: Receiver, id: string): Promise<Response> {
  await dropUpload(app, to, id);
  return tusAnswer(204);
}
