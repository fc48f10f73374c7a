import { CompiledQuery } from 'kysely';
import PgBoss from 'pg-boss';
import type { Tx } from '../db/transaction';
import { logUnexpected } from '../log';
import { refusalIn } from '../page/refusal';

/** What each kind of job is told. */
export interface JobKinds {
  'build class': { build: string };
  'open class': { class: string };
  'hand out': { hand: string };
  'notify handed out': { assignment: string };
  remind: { assignment: string; class: string };
  receive: { class: string; joined: string[]; moved: string[] };
  'bring correction': { change: string };
  'write archive': { archive: string };
  'forget archives': { before: string };
  'open archive': { archive: string };
  'look at attached': { attachment: string; keep: boolean };
  'take apart': { file: string };
}
type Kind = keyof JobKinds;
export type JobHandlers = { [K in Kind]: (data: JobKinds[K]) => Promise<void> };

const KINDS: readonly Kind[] = [
  'build class',
  'open class',
  'hand out',
  'notify handed out',
  'remind',
  'receive',
  'bring correction',
  'write archive',
  'forget archives',
  'open archive',
  'look at attached',
  'take apart',
];

/** After so many seconds a job whose process died is taken up again. Jobs do their work in portions and once only. */
const TAKEN_UP_AFTER = 20;
/** In seconds: the library gives up a job that takes longer, though its process lives. */
const LONGEST = 6 * 3600;
/** In milliseconds. */
const ALIVE_EVERY = 5_000;
const LOOK_EVERY_SECONDS = 1;
const TRIES = 20;

/** What a job that failed leaves for the office to read: a sentence, or the number under which the log has it. */
async function withReadableFault(kind: Kind, work: () => Promise<void>): Promise<void> {
  const thrown = await work().then(
    () => null,
    (error: unknown) => ({ error }),
  );
  if (!thrown) return;
  // The library keeps all of an error; what PostgreSQL says of one may quote somebody's words.
  const says = refusalIn(thrown.error)?.message;
  throw new Error(
    says ??
      `Something unexpected, number ${logUnexpected(thrown.error, { job: kind })} in the log.`,
  );
}

/** Queues are named without spaces. */
const queue = (kind: Kind) => kind.replaceAll(' ', '-');

/** What begins a job within a transaction, and can do nothing else. */
export type PutJob = Pick<Jobs, 'put'>;

/** Work that takes longer than a request, kept in the database: it outlives browsers and processes. */
export class Jobs {
  private readonly boss: PgBoss;

  constructor(url: string) {
    this.boss = new PgBoss({
      connectionString: url,
      max: 2,
      schedule: false,
      maintenanceIntervalSeconds: 5,
      retryLimit: TRIES,
      retryDelay: 1,
      expireInSeconds: LONGEST,
    });
    this.boss.on('error', (error) => void logUnexpected(error, { part: 'jobs' }));
  }

  /** Makes the tables and queues where they are missing. */
  async prepare(): Promise<void> {
    await this.boss.start();
    for (const kind of KINDS)
      await this.boss.createQueue(queue(kind), {
        name: queue(kind),
        retryLimit: TRIES,
        retryDelay: 1,
        expireInSeconds: LONGEST,
      });
  }

  /** Begins to work. */
  async start(handlers: JobHandlers): Promise<void> {
    await this.prepare();
    const work = async <K extends Kind>(kind: K) => {
      const worker = await this.boss.work<JobKinds[K]>(
        queue(kind),
        { pollingIntervalSeconds: LOOK_EVERY_SECONDS },
        async ([job]) => {
          if (!job) return;
          await this.keepingAlive(job.id, () =>
            withReadableFault(kind, () => handlers[kind](job.data)),
          );
          // Where one was, the next is looked for at once.
          this.boss.notifyWorker(worker);
        },
      );
    };
    for (const kind of KINDS) await work(kind);
    // A link that is slow to open keeps nobody’s file waiting.
    await work('look at attached');
  }

  /**
   * The library takes up again a job that has run for its longest time. While its process lives, it says so: the job looks
   * as if its longest time were over soon, and always a little later.
   */
  private async keepingAlive(id: string, work: () => Promise<void>): Promise<void> {
    const live = () =>
      this.boss
        .getDb()
        .executeSql(
          `update pgboss.job set started_on = now() - expire_in + $2::int * interval '1 second'
            where id = $1 and state = 'active'`,
          [id, TAKEN_UP_AFTER],
        )
        .catch((error: unknown) => void logUnexpected(error, { part: 'jobs' }));
    await live();
    const alive = setInterval(() => void live(), ALIVE_EVERY);
    try {
      await work();
    } finally {
      clearInterval(alive);
    }
  }

  /** Puts a job down as part of a transaction: it is there when the transaction is, and not before. */
  async put<K extends Kind>(
    tx: Tx,
    school: number,
    kind: K,
    data: JobKinds[K],
    at?: Date,
  ): Promise<void> {
    const executeSql = async (text: string, values: unknown[]) => {
      const { rows } = await tx.executeQuery(CompiledQuery.raw(text, values));
      return { rows };
    };
    await this.boss.send(
      queue(kind),
      { ...data, school },
      {
        db: { executeSql },
        expireInSeconds: LONGEST,
        ...(at ? { startAfter: at } : {}),
      },
    );
  }

  /** Tries a job that failed once more. */
  async retry(kind: string, id: string): Promise<void> {
    const known = KINDS.find((one) => one === kind);
    if (known) await this.boss.retry(queue(known), id);
  }

  /** The kind of a queue, by its name. */
  static kindOf = (name: string): Kind | null => KINDS.find((kind) => queue(kind) === name) ?? null;

  stop = (): Promise<void> => this.boss.stop({ graceful: true, timeout: 5_000, wait: true });
}
