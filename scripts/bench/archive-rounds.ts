/** Makes an archive several times, in a process that does nothing else. Prints how long each took, and the most memory. */
import { startApp } from '../../src/lib/server/app';
import { readSettings } from '../../src/lib/server/settings';
import { makeArchive } from '../../tests/support/archives';
import { timed } from './figure';

const [rounds = '1', klass = '', school = '', by = ''] = process.argv.slice(2);
const app = await startApp(readSettings({ ...process.env, LOG_LEVEL: 'silent' }));
let memory = 0;
const timer = setInterval(() => (memory = Math.max(memory, process.memoryUsage().rss)), 20);
const times: number[] = [];
for (let round = 0; round < Number(rounds); round++)
  times.push(await timed(() => makeArchive(app, { class: klass, school: Number(school), by })));
clearInterval(timer);
await app.close();
process.stdout.write(JSON.stringify({ times, memory }));
