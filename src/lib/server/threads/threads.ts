import { resolve } from 'node:path';
import { Worker } from 'node:worker_threads';
import { Refusal } from '../page/refusal';
import type { Answers, Reply, Task } from './tasks';

const FILE = resolve('build/workers/thread.worker.js');
/** Of one task: how long it may take, in milliseconds, and how much memory, in megabytes. */
const PATIENCE = 20_000;
const MEMORY = 400;
const MOST_WAITING = 40;

/** Does heavy work, each task in a thread of its own with bounds of memory and time: nobody else waits for it. */
export class Threads {
  private running = 0;
  private readonly waiting: (() => void)[] = [];

  /**
   * @param atOnce so many tasks run at once in this process; the others wait
   * @param tooMuch what somebody is told whose task passes the bounds
   */
  constructor(
    private readonly atOnce: number,
    private readonly tooMuch: string,
  ) {}

  /** @throws Refusal with the sentence for the person */
  async run<T extends Task>(task: T): Promise<Answers[T['kind']]> {
    if (this.waiting.length >= MOST_WAITING)
      throw new Refusal(503, 'Much is being worked on just now. Please try again in a minute.');
    if (this.running >= this.atOnce)
      await new Promise<void>((resolve) => this.waiting.push(resolve));
    this.running++;
    try {
      const reply = await inThread(task, () => new Refusal(413, this.tooMuch));
      if ('refusal' in reply) throw new Refusal(reply.refusal.status, reply.refusal.sentence);
      return reply.answer as Answers[T['kind']];
    } finally {
      this.running--;
      this.waiting.shift()?.();
    }
  }
}

function inThread(task: Task, tooLarge: () => Refusal): Promise<Reply> {
  const worker = new Worker(FILE, {
    workerData: task,
    resourceLimits: { maxOldGenerationSizeMb: MEMORY },
    stdout: true,
    stderr: true,
  });
  return new Promise<Reply>((resolve, reject) => {
    const late = setTimeout(() => reject(tooLarge()), PATIENCE);
    const settle = (end: () => void) => {
      clearTimeout(late);
      end();
    };
    worker.once('message', (reply: Reply) => settle(() => resolve(reply)));
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
