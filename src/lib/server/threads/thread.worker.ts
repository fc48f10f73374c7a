import { parentPort, workerData } from 'node:worker_threads';
import { namePicture } from '../file/picture-name';
import { Refusal } from '../page/refusal';
import { readRosterFile } from '../roster/read-file';
import { readCodeFile } from '../import/code-file';
import { readTable } from '../import/tables';
import type { Reply, Task } from './tasks';

/** Does one task in a thread of its own, whose memory and time are bounded: see `Threads`. What it needs is loaded then. */
async function work(task: Task): Promise<Reply> {
  if (task.kind === 'rebase') {
    const { rebaseTask } = await import('./rebase-task');
    return { answer: rebaseTask(task) };
  }
  const bytes = Buffer.from(task.bytes);
  if (task.kind === 'table') return { answer: await readTable(task.name, bytes) };
  if (task.kind === 'roster') return { answer: await readRosterFile(bytes, task.way) };
  if (task.kind === 'codes') return { answer: readCodeFile(task.name, bytes) };
  if (task.kind === 'pdf') {
    const { readPdf } = await import('../attached/read-pdf');
    return { answer: await readPdf(bytes) };
  }
  if (task.kind === 'cut') {
    const { cutPdf } = await import('../collecting/cut-pdf');
    return { answer: await cutPdf(bytes, task.pieces) };
  }
  const { readDocument } = await import('../import/read-document');
  const carried: Uint8Array[] = [];
  const save = async (picture: Buffer) => {
    const { name } = await namePicture(picture);
    carried.push(picture);
    return name;
  };
  const { page, ...read } = await readDocument(
    { name: task.name, bytes },
    new Map(task.pictures),
    save,
  );
  return { answer: { ...read, page: page.toJSON(), carried } };
}

const reply = await work(workerData).catch((thrown): Reply => {
  if (thrown instanceof Refusal)
    return { refusal: { status: thrown.status, sentence: thrown.message } };
  throw thrown;
});
parentPort?.postMessage(reply);
