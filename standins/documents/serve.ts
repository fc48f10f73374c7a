/** The stand-in for documents made elsewhere, as a process of its own: `PORT`. */
import { documentServer } from './documents';

const server = documentServer();
server.listen(Number(process.env.PORT), '127.0.0.1');
for (const signal of ['SIGTERM', 'SIGINT'])
  process.once(signal, () => {
    server.close();
    server.closeAllConnections();
  });
