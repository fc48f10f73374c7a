import { parentPort, workerData } from 'node:worker_threads';
import { namePicture } from '../file/picture-name';
import { Refusal } from '../page/refusal';
import { readDocument } from './read-document';
import type { ReaderReply, ReaderTask } from './reader-tasks';
import { readTable } from './tables';

/** Reads one file in a thread of its own, whose memory and time are bounded: see `Reader`. */
async function work(task: ReaderTask): Promise<ReaderReply> {
  const bytes = Buffer.from(task.bytes);
  if (task.kind === 'table') return { answer: await readTable(task.name, bytes) };
  const carried: Uint8Array[] = [];
  const keep = async (picture: Buffer) => {
    const { name } = await namePicture(picture);
    carried.push(picture);
    return name;
  };
  const { page, ...read } = await readDocument(
    { name: task.name, bytes },
    new Map(task.pictures),
    keep,
  );
  return { answer: { ...read, page: page.toJSON(), carried } };
}

const reply = await work(workerData).catch((thrown): ReaderReply => {
  if (thrown instanceof Refusal)
    return { refusal: { status: thrown.status, sentence: thrown.message } };
  throw thrown;
});
parentPort?.postMessage(reply);
