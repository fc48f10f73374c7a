import pg from 'pg';

/** In milliseconds; shorter than a test's limit. */
const PATIENCE = 45_000;

/**
 * A table that nobody can write in until it is let go: whoever does stands still, in the middle of their transaction. So a
 * test knows where a process stood when it was killed.
 */
export class HeldTable {
  private constructor(private readonly client: pg.Client) {}

  /** @param from whom it is held: those who write, or those who read, too */
  static async hold(
    url: string,
    table: string,
    from: 'writers' | 'readers' = 'writers',
  ): Promise<HeldTable> {
    const client = new pg.Client({ connectionString: url });
    await client.connect();
    const mode = from === 'writers' ? 'exclusive' : 'access exclusive';
    await client.query(`begin; lock table ${table} in ${mode} mode`);
    return new HeldTable(client);
  }

  /** Returns once somebody waits for the table inside a transaction, which has written something before. */
  async someoneWaits(): Promise<void> {
    await this.until(async () => {
      const { rows } = await this.client.query(
        `select from pg_locks waiting where not granted and pg_backend_pid() = any(pg_blocking_pids(pid))
          and exists (select from pg_locks own where own.pid = waiting.pid and own.locktype = 'transactionid'
            and own.granted)`,
      );
      return rows.length > 0;
    });
  }

  /** Returns once so many wait inside transactions, for the table or for each other. */
  async othersWait(count: number): Promise<void> {
    await this.until(async () => {
      const { rows } = await this.client.query(
        `select distinct waiting.pid from pg_locks waiting where not granted and pid in (
          select pid from pg_stat_get_activity(null) where datid = (
            select oid from pg_database where datname = current_database()))`,
      );
      return rows.length >= count;
    });
  }

  /** Looks until it is so, and no longer than a test may take. */
  private async until(isSo: () => Promise<boolean>): Promise<void> {
    const deadline = performance.now() + PATIENCE;
    while (!(await isSo()))
      if (performance.now() > deadline) throw new Error('nobody waits for the table');
  }

  async letGo(): Promise<void> {
    await this.client.query('commit');
    await this.client.end();
  }
}
