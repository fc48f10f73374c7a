import { CompiledQuery } from 'kysely';
import { RateLimiterPostgres, RateLimiterRes } from 'rate-limiter-flexible';
import type { Database } from '../db/connect';
import { log } from '../log';
import { Refusal } from '../page/refusal';

const MINUTE = 60;
const DAY = 24 * 3600;

/** How much of each kind is let through in how many seconds. */
const RULES = {
  /** Wrong passwords for one account, from browsers that nobody knows. */
  account: { points: 10, duration: 15 * MINUTE },
  /** Wrong passwords from one browser that its person signed in with before. */
  browser: { points: 10, duration: 15 * MINUTE },
  /** Wrong passwords from one address: a whole school may stand behind it. */
  address: { points: 60, duration: 15 * MINUTE },
  /** Wrong passwords from the addresses around it. */
  range: { points: 200, duration: 15 * MINUTE },
  /** Links that lead nowhere, tried from one address. */
  link: { points: 30, duration: 15 * MINUTE },
  /** Letters with a link to a new password, for one account. */
  letter: { points: 5, duration: 60 * MINUTE },
  comment: { points: 30, duration: MINUTE },
  /** Each place that somebody goes on from sends one. */
  proposal: { points: 120, duration: MINUTE },
  /** Kilobytes of pictures. */
  picture: { points: 500_000, duration: DAY },
  /** Kilobytes of files that are attached. */
  attached: { points: 2_000_000, duration: DAY },
  /** Kilobytes of files that a teacher collects. */
  collected: { points: 10_000_000, duration: DAY },
  /** Links that are asked for somebody. */
  'link looked at': { points: 60, duration: 10 * MINUTE },
} as const;
export type LimitKind = keyof typeof RULES;

/** In milliseconds. */
const CLEAR_EVERY = 3_600_000;

const sayWait = (milliseconds: number) => {
  const seconds = Math.max(1, Math.ceil(milliseconds / 1000));
  return seconds < 90 ? `${seconds} seconds` : `${Math.ceil(seconds / 60)} minutes`;
};

/** Counts what somebody does, for all processes together, and says when it is too much. */
export class Limits {
  private readonly limiters: Record<LimitKind, RateLimiterPostgres>;

  private timer: NodeJS.Timeout | null = null;

  constructor(private readonly db: Database) {
    const storeClient = {
      query: ({ text, values }: { text: string; values: unknown[] }) =>
        db.executeQuery(CompiledQuery.raw(text, values)),
    };
    const make = (kind: LimitKind) =>
      new RateLimiterPostgres({
        storeClient,
        storeType: 'pool',
        tableName: 'rate_limit',
        tableCreated: true,
        keyPrefix: kind,
        ...RULES[kind],
        clearExpiredByTimeout: false,
      });
    const kinds = Object.keys(RULES) as LimitKind[];
    this.limiters = Object.fromEntries(kinds.map((kind) => [kind, make(kind)])) as Record<
      LimitKind,
      RateLimiterPostgres
    >;
  }

  /** Begins to clear away, now and then, what counts no longer. */
  start(): void {
    this.timer = setInterval(() => {
      const expired = this.db.deleteFrom('rate_limit').where('expire', '<', String(Date.now()));
      expired
        .execute()
        .catch((error) => log.warn({ err: error }, 'old counts could not be cleared away'));
    }, CLEAR_EVERY);
    this.timer.unref();
  }

  stop(): void {
    if (this.timer) clearInterval(this.timer);
  }

  /** Counts something. @throws Refusal with how long to wait when it is too much */
  async count(kind: LimitKind, key: string, points = 1): Promise<void> {
    try {
      await this.limiters[kind].consume(key, points);
    } catch (thrown) {
      if (!(thrown instanceof RateLimiterRes)) throw thrown;
      const wait = sayWait(thrown.msBeforeNext);
      throw new Refusal(429, `This was too often. Please try again in ${wait}.`);
    }
  }

  /** Takes back what was counted: it went well. */
  async forgive(kind: LimitKind, key: string): Promise<void> {
    await this.limiters[kind].reward(key, 1);
  }
}
