import { parentPort, workerData } from 'node:worker_threads';
import { Refusal } from '../page/refusal';
import type { Reply, Task } from './tasks';

/** Does one task in a thread of its own, whose memory and time are bounded: see `Threads`. What it needs, and no more, is loaded then. */
async function work(task: Task): Promise<Reply> {
  switch (task.kind) {
    case 'rebase': {
      const { rebaseTask } = await import('./rebase-task');
      return { answer: rebaseTask(task) };
    }
    case 'table': {
      const { readTable } = await import('../import/tables');
      return { answer: await readTable(task.name, Buffer.from(task.bytes)) };
    }
    case 'roster': {
      const { readRosterFile } = await import('../roster/read-file');
      return { answer: await readRosterFile(Buffer.from(task.bytes), task.way) };
    }
    case 'codes': {
      const { readCodeFile } = await import('../import/code-file');
      return { answer: readCodeFile(task.name, Buffer.from(task.bytes)) };
    }
    case 'pdf': {
      const { readPdf } = await import('../attached/read-pdf');
      return { answer: await readPdf(task.bytes) };
    }
    case 'cut': {
      const { cutPdf } = await import('../collecting/cut-pdf');
      return { answer: await cutPdf(task.bytes, task.pieces) };
    }
    case 'document': {
      const { documentTask } = await import('./document-task');
      return { answer: await documentTask(task) };
    }
  }
}

const reply = await work(workerData).catch((thrown): Reply => {
  if (thrown instanceof Refusal)
    return { refusal: { status: thrown.status, sentence: thrown.message } };
  throw thrown;
});
parentPort?.postMessage(reply);
