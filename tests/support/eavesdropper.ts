import { createServer, request, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';

/**
 * Stands between browsers and a server, and keeps all that the server answers: views, data, streams. Nothing is compressed on
 * that way.
 */
export class Eavesdropper {
  private constructor(
    private readonly server: Server,
    private readonly heard: string[],
  ) {}

  static async before(origin: string): Promise<Eavesdropper> {
    const to = new URL(origin);
    const heard: string[] = [];
    const server = createServer((incoming, outgoing) => {
      const headers: Record<string, unknown> = { ...incoming.headers, host: to.host };
      if (headers.origin) headers.origin = origin;
      delete headers['accept-encoding'];
      const { method, url } = incoming;
      const asked = request(
        { host: to.hostname, port: to.port, method, path: url, headers: headers as never },
        (answer) => {
          outgoing.writeHead(answer.statusCode ?? 500, answer.headers);
          outgoing.flushHeaders();
          answer.on('data', (piece: Buffer) => {
            heard.push(piece.toString());
            outgoing.write(piece);
          });
          answer.on('end', () => outgoing.end());
          answer.on('error', () => outgoing.destroy());
        },
      );
      asked.on('error', () => outgoing.destroy());
      outgoing.on('close', () => asked.destroy());
      incoming.pipe(asked);
    });
    await new Promise<void>((ready) => server.listen(0, '127.0.0.1', ready));
    return new Eavesdropper(server, heard);
  }

  get origin(): string {
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  /** Which of some words were in what was answered. */
  heardOf(words: readonly string[]): string[] {
    const all = this.heard.join('');
    return words.filter((word) => all.includes(word));
  }

  /** How much was answered, in characters. */
  get length(): number {
    return this.heard.reduce((sum, piece) => sum + piece.length, 0);
  }

  async leave(): Promise<void> {
    this.server.closeAllConnections();
    await new Promise((closed) => this.server.close(closed));
  }
}
