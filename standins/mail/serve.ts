/** The mail stand-in as a process of its own: `PORT` and `MAIL_FOLDER`, into which each mail goes as a file. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { mailServer } from './mail';

const { PORT, MAIL_FOLDER: folder = 'mail' } = process.env;
mkdirSync(folder, { recursive: true });
let number = 0;
const server = mailServer((mail) => {
  const name = `${new Date().toISOString().replace(/[:.]/g, '-')}-${(number += 1)}.eml`;
  writeFileSync(join(folder, name), mail);
});
server.listen(Number(PORT), '127.0.0.1');
for (const signal of ['SIGTERM', 'SIGINT']) process.once(signal, () => server.close());
