/** The office stand-in as a process of its own: `PORT`, `OFFICE_CLIENT_ID` and `OFFICE_CLIENT_SECRET` from the environment. */
import { Temporal } from 'temporal-polyfill';
import { officeServer } from './office';
import { officeRecords } from './records';

const { PORT, OFFICE_CLIENT_ID: id = '', OFFICE_CLIENT_SECRET: secret = '' } = process.env;
const server = officeServer(
  officeRecords(Temporal.Now.plainDateISO().toString()),
  { id, secret },
  Date.now,
);
server.listen(Number(PORT), '127.0.0.1');
for (const signal of ['SIGTERM', 'SIGINT'])
  process.once(signal, () => {
    server.close();
    server.closeAllConnections();
  });
