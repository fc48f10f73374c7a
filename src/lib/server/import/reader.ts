import { resolve } from 'node:path';
import { Worker } from 'node:worker_threads';
import { Refusal } from '../page/refusal';
import type { ReaderAnswers, ReaderReply, ReaderTask } from './reader-tasks';

const FILE = resolve('build/workers/reader.worker.js');
/** Of one file: how long its reading may take, in milliseconds, and how much memory, in megabytes. */
const PATIENCE = 20_000;
const MEMORY = 400;
/** So many files are read at once by a process; the others wait. */
const AT_ONCE = 2;
const MOST_WAITING = 40;

const tooLarge = () =>
  new Refusal(
    413,
    'This file takes more time or memory to read than there is for it. Please split it into smaller ones.',
  );

/** Reads files that people bring, each in a thread of its own: however they are made, nobody else waits for them. */
export class Reader {
  private running = 0;
  private readonly waiting: (() => void)[] = [];

  /** @throws Refusal with the sentence for the person */
  async read<T extends ReaderTask>(task: T): Promise<ReaderAnswers[T['kind']]> {
    if (this.waiting.length >= MOST_WAITING)
      throw new Refusal(503, 'Many files are being read just now. Please try again in a minute.');
    if (this.running >= AT_ONCE) await new Promise<void>((resolve) => this.waiting.push(resolve));
    this.running++;
    try {
      const reply = await inThread(task);
      if ('refusal' in reply) throw new Refusal(reply.refusal.status, reply.refusal.sentence);
      return reply.answer as ReaderAnswers[T['kind']];
    } finally {
      this.running--;
      this.waiting.shift()?.();
    }
  }
}

function inThread(task: ReaderTask): Promise<ReaderReply> {
  const worker = new Worker(FILE, {
    workerData: task,
    resourceLimits: { maxOldGenerationSizeMb: MEMORY },
    stdout: true,
    stderr: true,
  });
  return new Promise<ReaderReply>((resolve, reject) => {
    const late = setTimeout(() => reject(tooLarge()), PATIENCE);
    const settle = (end: () => void) => {
      clearTimeout(late);
      end();
    };
    worker.once('message', (reply: ReaderReply) => settle(() => resolve(reply)));
    worker.once('error', (error) =>
      settle(() =>
        reject(
          'code' in error && error.code === 'ERR_WORKER_OUT_OF_MEMORY'
            ? tooLarge()
            : error instanceof RangeError
              ? tooLarge()
              : error,
        ),
      ),
    );
    worker.once('exit', () => settle(() => reject(tooLarge())));
  }).finally(() => void worker.terminate());
}
