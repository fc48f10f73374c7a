import { pageReader } from './access/relation';
import { Limits } from './access/limits';
import { sessionReader } from './access/session';
import { forgetForerunners, writeArchive } from './archive/archives';
import { openArchive } from './archive/open-archive';
import { takeApart } from './collecting/take-apart';
import { lookAtAttached } from './attached/look-at';
import { buildClass } from './class/build-class';
import { openWhenDue } from './class/open-class';
import { handOutWhenDue } from './handout/drafts';
import { notifyHandedOut, remind } from './handout/notify-students';
import { Indexer } from './find/indexer';
import { Jobs } from './jobs/jobs';
import { Threads } from './threads/threads';
import { Mailer } from './mail/mailer';
import { NewsHub } from './live/news-hub';
import { PageLog } from './page/page-log';
import { PageMemory } from './page/page-memory';
import { connect } from './db/connect';
import { migrate } from './db/migrate';
import { carryCorrection } from './handout/corrections';
import { receive } from './roster/receive';
import { officeOf } from './office/office';
import type { Services } from './services';
import type { Settings } from './settings';

/** The services of one process, and what stops them. */
export interface App extends Services {
  close: () => Promise<void>;
}

export async function startApp(settings: Settings): Promise<App> {
  const db = connect(settings.DATABASE_URL, settings.DATABASE_CONNECTIONS);
  await migrate(db);
  const news = new NewsHub(db, settings.DATABASE_URL);
  await news.start();
  const memory = new PageMemory();
  const pages = new PageLog(db, memory, news, Date.now, (page) => indexer.touch(page));
  const indexer = new Indexer({ db, pages });
  const jobs = new Jobs(settings.DATABASE_URL);
  const mailer = new Mailer(db, settings);
  const app: App = {
    settings,
    db,
    pages,
    memory,
    news,
    jobs,
    indexer,
    office: officeOf(settings),
    mailer,
    limits: new Limits(db),
    threads: new Threads(
      2,
      'This file takes more time or memory to read than there is for it. Please split it into smaller ones.',
    ),
    whoIs: sessionReader(db),
    findPage: pageReader(db),
    close: async () => {
      app.limits.stop();
      await jobs.stop();
      await mailer.stop();
      await indexer.stop();
      await news.close();
      await db.destroy();
    },
  };
  await jobs.start({
    'build class': ({ build }) => buildClass(app, build),
    'open class': (data) => openWhenDue(app, data.class, new Date()),
    'notify handed out': ({ assignment }) => notifyHandedOut(app, assignment),
    remind: (data) => remind(app, data, Date.now()),
    receive: (data) => receive(app, data),
    'bring correction': ({ change }) => carryCorrection(app, change),
    'write archive': ({ archive }) => writeArchive(app, archive),
    'forget archives': ({ before }) => forgetForerunners(app.db, before),
    'open archive': ({ archive }) => openArchive(app, archive),
    'look at attached': (data) => lookAtAttached(app, data),
    'take apart': ({ file }) => takeApart(app, file),
    'hand out': ({ hand }) => handOutWhenDue(app, hand, new Date()),
  });
  indexer.start();
  mailer.start();
  app.limits.start();
  return app;
}
