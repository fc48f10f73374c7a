import { spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { freePort } from '../../scripts/lib/cluster.mjs';

/** A server that does not answer by then is ended, in milliseconds. */
const PATIENCE = 45_000;

/** A built application process on loopback, as it runs in earnest. */
export class Server {
  private child: ChildProcess | null = null;
  output = '';

  private constructor(
    readonly port: number,
    private readonly env: Record<string, string>,
  ) {}

  /** The address of its database. */
  get database(): string {
    return this.env.DATABASE_URL ?? '';
  }

  get origin(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  static async start(database: string, env: Record<string, string> = {}): Promise<Server> {
    const server = new Server(await freePort(), { DATABASE_URL: database, ...env });
    await server.up();
    return server;
  }

  /** Starts it, also again after `kill`, on the same port. */
  async up(): Promise<void> {
    this.child = spawn(process.execPath, ['build/index.js'], {
      stdio: ['ignore', 'pipe', 'pipe'],
      env: {
        ...process.env,
        HOST: '127.0.0.1',
        PORT: String(this.port),
        ORIGIN: this.origin,
        LOG_LEVEL: 'warn',
        BODY_SIZE_LIMIT: '12M',
        SHUTDOWN_TIMEOUT: '5',
        NODE_ENV: 'production',
        ...this.env,
      },
    });
    for (const stream of [this.child.stdout, this.child.stderr])
      stream?.on('data', (data) => (this.output += data));
    const deadline = performance.now() + PATIENCE;
    for (;;) {
      if (this.child.exitCode !== null) throw new Error(`the server ended: ${this.output}`);
      if (performance.now() > deadline) {
        await this.kill();
        throw new Error(`the server did not answer: ${this.output}`);
      }
      const answer = await fetch(`${this.origin}/health`).catch(() => null);
      if (answer?.ok) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
  }

  private async end(signal: 'SIGKILL' | 'SIGTERM'): Promise<number | null> {
    const child = this.child;
    if (!child || child.exitCode !== null) return child?.exitCode ?? null;
    const ended = once(child, 'exit');
    child.kill(signal);
    const [code] = await ended;
    return code;
  }

  kill = (): Promise<number | null> => this.end('SIGKILL');
  stop = (): Promise<number | null> => this.end('SIGTERM');
}
