import { SMTPServer } from 'smtp-server';

/** A mail server that keeps what it is given and sends nothing on. Loopback only, without TLS or passwords. */
export function mailServer(caught: (mail: Buffer) => void): SMTPServer {
  return new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    size: 5_000_000,
    onData(stream, _session, done) {
      const pieces: Buffer[] = [];
      stream.on('data', (piece: Buffer) => pieces.push(piece));
      stream.on('end', () => {
        caught(Buffer.concat(pieces));
        done();
      });
    },
  });
}
