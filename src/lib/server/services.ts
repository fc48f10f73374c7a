import type { Limits } from './access/limits';
import type { PageReader } from './access/relation';
import type { SessionReader } from './access/session';
import type { Database } from './db/connect';
import type { Indexer } from './find/indexer';
import type { Jobs } from './jobs/jobs';
import type { NewsHub } from './live/news-hub';
import type { Mailer } from './mail/mailer';
import type { Office } from './office/office';
import type { PageLog } from './page/page-log';
import type { PageMemory } from './page/page-memory';
import type { Settings } from './settings';
import type { Threads } from './threads/threads';

/** What one process of Uncia works with; `startApp` puts it together. */
export interface Services {
  settings: Settings;
  db: Database;
  pages: PageLog;
  memory: PageMemory;
  news: NewsHub;
  jobs: Jobs;
  indexer: Indexer;
  office: Office | null;
  mailer: Mailer;
  limits: Limits;
  /** For files that people bring. */
  threads: Threads;
  whoIs: SessionReader;
  findPage: PageReader;
}

/** The few services that a function uses: it takes the whole and says what it needs of it. */
export type Using<Names extends keyof Services> = Pick<Services, Names>;
