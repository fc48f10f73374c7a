import { LRUCache } from 'lru-cache';
import type { HeldPage } from './held-page';
import { catchUp, readPage, type Connection, type PageOrigin } from './page-store';
import { Refusal } from './refusal';

/** The pages that this process holds in memory. It has no connection of its own: who asks brings theirs. */
export class PageMemory {
  private readonly held = new LRUCache<string, HeldPage>({ max: 2000 });

  /** The page at its newest version. @throws Refusal when there is none */
  async open(db: Connection, page: string): Promise<HeldPage> {
    const row = await db
      .selectFrom('page')
      .select(['id', 'version', 'source_id', 'source_version'])
      .where('id', '=', page)
      .executeTakeFirst();
    if (!row) throw new Refusal(404, 'This page does not exist any more.');
    return this.hold(db, row);
  }

  /** The page of a row that was just read, moved on by what other processes appended. */
  async hold(db: Connection, row: PageOrigin): Promise<HeldPage> {
    const known = this.held.get(row.id);
    if (known && known.version >= row.version) return known;
    const held = known ? await catchUp(db, row, known) : await readPage(db, row);
    this.keep(row.id, held);
    return held;
  }

  /** The page as this process knows it, which may be behind. */
  known = (page: string): HeldPage | undefined => this.held.get(page);

  keep(page: string, held: HeldPage): void {
    this.held.set(page, held);
  }
}
