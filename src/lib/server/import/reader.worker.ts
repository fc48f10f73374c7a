import { parentPort, workerData } from 'node:worker_threads';
import { namePicture } from '../file/picture-name';
import { Refusal } from '../page/refusal';
import { readRosterFile } from '../roster/read-file';
import { readCodeFile } from './code-file';
import type { ReaderReply, ReaderTask } from './reader-tasks';
import { readTable } from './tables';

/** Reads one file in a thread of its own, whose memory and time are bounded: see `Reader`. What it needs is loaded then. */
async function work(task: ReaderTask): Promise<ReaderReply> {
  const bytes = Buffer.from(task.bytes);
  if (task.kind === 'table') return { answer: await readTable(task.name, bytes) };
  if (task.kind === 'roster') return { answer: await readRosterFile(bytes, task.way) };
  if (task.kind === 'codes') return { answer: readCodeFile(task.name, bytes) };
  const { readDocument } = await import('./read-document');
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
