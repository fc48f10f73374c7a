import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';

const GREEN = `import { expect, it } from 'vitest'; it('holds', () => expect(1).toBe(1));`;
const RED = `import { expect, it } from 'vitest'; it('holds', () => expect(1).toBe(2));`;
/** Fails the first time, and when somebody takes away what it leaves. */
const chance = (mark: string) => `import { existsSync, writeFileSync } from 'node:fs';
  import { expect, it } from 'vitest';
  it('holds', () => {
    const was = existsSync('${mark}');
    writeFileSync('${mark}', '');
    expect(was).toBe(true);
  });`;

describe('a run of the tests', () => {
  let home = '';
  beforeEach(() => {
    // Below the project, where its packages are found.
    mkdirSync('.uncia', { recursive: true });
    home = mkdtempSync(resolve('.uncia', 'made-up-'));
    writeFileSync(join(home, 'vitest.config.js'), 'export default {}');
  });
  afterEach(() => rmSync(home, { recursive: true, force: true }));

  const put = (name: string, text: string) => writeFileSync(join(home, `${name}.test.js`), text);
  const unsteady = (name: string) => put(name, chance(join(home, `${name}.mark`)));
  const forget = () => {
    for (const name of readdirSync(home))
      if (name.endsWith('.mark')) rmSync(join(home, name), { force: true });
  };

  async function runs(): Promise<{ status: number; said: string }> {
    const how = { folder: join(home, 'run'), chances: join(home, 'chances.json') };
    const script = `import { runSuite } from './scripts/lib/run-suite.mjs';
      process.exit(await runSuite(['--root=${home}', '--config=${join(home, 'vitest.config.js')}'], { env: process.env, ...${JSON.stringify(how)} }));`;
    // Without what tells a program that it is within a run of vitest.
    const names = Object.keys(process.env).filter((name) => !name.startsWith('VITEST'));
    const env = Object.fromEntries(names.map((name) => [name, process.env[name]]));
    const child = spawn(process.execPath, ['--input-type=module', '-e', script], { env });
    let said = '';
    for (const stream of [child.stdout, child.stderr])
      stream.on('data', (data) => (said += String(data)));
    const [status] = await once(child, 'close');
    return { status, said };
  }

  it('is green where all is, and says how much', async () => {
    put('a', GREEN);
    put('b', GREEN);
    const { status, said } = await runs();
    expect(said).toMatch(/^2 passed, 0 failed, 0 skipped$/m);
    expect(status).toBe(0);
  });

  it('is red where a test fails twice', async () => {
    put('a', GREEN);
    put('b', RED);
    const { status, said } = await runs();
    expect(said).toMatch(/^failed: .*b\.test\.js › holds$/m);
    expect(said).toMatch(/^1 passed, 1 failed, 0 skipped$/m);
    expect(status).toBe(1);
  });

  it('is green and tells of a test that failed by chance; red when it does so again within a week', async () => {
    put('a', GREEN);
    unsteady('b');
    const first = await runs();
    expect(first.said).toMatch(/^unsteady, failed and then passed alone: .*b\.test\.js/m);
    expect(first.said).toMatch(/^2 passed, 0 failed, 0 skipped$/m);
    expect(first.status).toBe(0);
    // Known by the same name in another checkout.
    expect(readFileSync(join(home, 'chances.json'), 'utf8')).not.toContain(resolve('.'));
    forget();
    const second = await runs();
    expect(second.said).toMatch(
      /^failed by chance for the second time within a week.*b\.test\.js/m,
    );
    expect(second.status).toBe(1);
  });

  it('is red where more than two files are unsteady', async () => {
    for (const name of ['a', 'b', 'c']) unsteady(name);
    const { status, said } = await runs();
    expect(said).toMatch(/^More than 2 files were unsteady/m);
    expect(status).toBe(1);
  });

  it('is red where a file cannot be loaded, or none is there', async () => {
    put('a', 'throw new Error("not today")');
    expect((await runs()).status).toBe(1);
    rmSync(join(home, 'a.test.js'));
    expect((await runs()).status).toBe(1);
  });
});

it('ends what it started when it is ended itself, and does not go on', async () => {
  const script = `import { run } from './scripts/lib/project.mjs';
    await run(process.execPath, ['-e', 'console.log(process.pid); setInterval(() => {}, 1000)']);
    console.log('went on');`;
  const runner = spawn(process.execPath, ['--input-type=module', '-e', script]);
  const [printed] = await once(runner.stdout, 'data');
  const child = Number(String(printed));
  let more = '';
  runner.stdout.on('data', (data) => (more += String(data)));
  expect(() => process.kill(child, 0)).not.toThrow();
  runner.kill('SIGTERM');
  await once(runner, 'close');
  await expect.poll(() => isThere(child)).toBe(false);
  expect(more).toBe('');
});

function isThere(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
}
