/** Fills the database of DATABASE_URL with the demo school, unless somebody is there already. */
import { startApp } from '../src/lib/server/app';
import { hasPeople } from '../src/lib/server/school/first';
import { readSettings } from '../src/lib/server/settings';
import { loadDemo } from './load';

const app = await startApp(readSettings(process.env));
if (!(await hasPeople(app.db))) {
  await loadDemo(app, Date.now());
  await app.indexer.catchUp();
}
await app.close();
// The queue of jobs may leave a timer behind when it is stopped as soon as it has started.
process.exit();
