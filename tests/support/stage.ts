import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type {
  Browser,
  BrowserContext,
  BrowserContextOptions,
  Cookie,
  Locator,
  Page,
} from 'playwright-core';
import { afterAll, afterEach, beforeAll, inject } from 'vitest';
import { PASSWORD } from '../../demo/people';
import { launch, openBrowser, signIn } from './browser';
import { freshDatabase, queriesIn } from './database';
import { Server } from './server';

/** What a file of tests needs beyond the rule. */
interface StageOptions {
  /** Service workers are where they are the matter; elsewhere they only cost. */
  serviceWorkers?: 'allow' | 'block';
  /** Whoever enters again has their session of before, unless sessions are the matter. */
  sessions?: 'kept' | 'new';
}

/** A wait ends before its test does, in milliseconds. */
const PATIENCE = Number(process.env.PATIENCE ?? 45_000);

/** The demo school, or an empty one, on a server of its own, and browsers for its people. */
export class Stage {
  private browser: Browser | null = null;
  private running: Server | null = null;
  private readonly entered: BrowserContext[] = [];
  private readonly staying = new Map<string, { context: BrowserContext; page: Page }>();
  private readonly cookies = new Map<string, Cookie[]>();
  /** What went wrong in the pages of the test that runs. */
  readonly errors: Error[] = [];

  constructor(private readonly options: StageOptions) {}

  get server(): Server {
    if (!this.running) throw new Error('the stage is not set');
    return this.running;
  }

  /** @param settings more of them, for the server */
  async set(settings: Record<string, string>): Promise<void> {
    const school = settings.UNCIA_FIRST ? inject('template') : inject('demo');
    const database = await freshDatabase(inject('server'), school);
    this.running = await Server.start(database, settings);
    this.browser = await launch();
  }

  private get pages(): Page[] {
    const staying = [...this.staying.values()].map(({ context }) => context);
    return [...this.entered, ...staying].flatMap((context) => context.pages());
  }

  /** What everybody sees, and where they are in it, for whoever reads of a test that failed. */
  async tell(): Promise<string> {
    const told: string[] = [];
    for (const page of this.pages) {
      const body = await page.innerText('body', { timeout: 5000 }).catch(() => '');
      const focus = await page
        .evaluate(() => document.activeElement?.outerHTML.slice(0, 200) ?? '')
        .catch(() => '');
      told.push(`${page.url()}, at ${focus}: ${body.replace(/\s+/g, ' ').slice(0, 4000)}`);
    }
    return [...told, await this.tellOfServer()].join('\n');
  }

  /** Whether the server and its database answer, what is under way there, and what it wrote last. */
  private async tellOfServer(): Promise<string> {
    const { origin, database, output } = this.server;
    const asked = performance.now();
    const health = await fetch(`${origin}/health`, { signal: AbortSignal.timeout(10_000) }).then(
      ({ status }) => String(status),
      (error: unknown) => String(error),
    );
    const answered = Math.round(performance.now() - asked);
    const underWay = await queriesIn(database);
    return `health: ${health} after ${answered} ms\n${underWay.join('\n')}\n${output.slice(-2000)}`;
  }

  /** Keeps what everybody sees of a test that failed, and all that the server wrote. @returns the folder */
  async keep(test: string): Promise<string> {
    const name = test.replace(/[^\p{L}\p{N}]+/gu, '-').slice(0, 100);
    const folder = join(process.env.TESTS_SEEN ?? '.uncia/seen', name);
    await mkdir(folder, { recursive: true });
    await writeFile(join(folder, 'server.log'), this.server.output);
    for (const [n, page] of this.pages.entries()) {
      const path = join(folder, `page-${n + 1}`);
      await page.screenshot({ path: `${path}.png`, timeout: 5000 }).catch(() => undefined);
      const text = await page.content().catch(() => '');
      await writeFile(`${path}.html`, `<!-- ${page.url()} -->\n${text}`);
    }
    return folder;
  }

  /** Everybody leaves but those who stay, so that no page goes on by itself in the next test. */
  async clear(): Promise<void> {
    await Promise.all(this.entered.splice(0).map((context) => context.close()));
  }

  async strike(): Promise<void> {
    await this.browser?.close();
    await this.running?.stop();
  }

  /** A browser at its first view, signed in where a name is given. An error in one of its pages fails the test. */
  async enter(
    name?: string,
    device: BrowserContextOptions = {},
  ): Promise<{ context: BrowserContext; page: Page }> {
    const opened = await this.open(name, device);
    this.entered.push(opened.context);
    if (name) await this.signIn(opened, name);
    return opened;
  }

  /** The one browser of somebody, at its first view: from test to test, for what leaves nothing behind in it. */
  async stay(name: string): Promise<Page> {
    const here = this.staying.get(name);
    if (here) {
      await here.page.goto('/');
      return here.page;
    }
    const opened = await this.open(name, {});
    this.staying.set(name, opened);
    await this.signIn(opened, name);
    return opened.page;
  }

  private async open(name: string | undefined, device: BrowserContextOptions) {
    if (!this.browser) throw new Error('the stage is not set');
    const cookies = (name && this.cookies.get(name)) || [];
    const opened = await openBrowser(this.browser, this.server.origin, {
      serviceWorkers: this.options.serviceWorkers ?? 'block',
      storageState: { cookies, origins: [] },
      ...device,
    });
    opened.context.on('weberror', (webError) => this.errors.push(webError.error()));
    opened.context.setDefaultTimeout(PATIENCE);
    opened.context.on('page', waitUntilReady);
    for (const page of opened.context.pages()) waitUntilReady(page);
    return opened;
  }

  private async signIn({ context, page }: { context: BrowserContext; page: Page }, name: string) {
    if (this.cookies.has(name)) await page.goto('/');
    if (!page.url().startsWith('http') || page.url().includes('/sign-in')) {
      await signIn(page, name, PASSWORD);
      await page.locator('html[data-ready]').waitFor({ state: 'attached' });
    }
    if (this.options.sessions !== 'new') this.cookies.set(name, await context.cookies());
  }
}

/** A view that has just been loaded shows its buttons before they answer. */
function waitUntilReady(page: Page): void {
  const ready = async () => {
    // An archive's own pages, opened from a folder, have no script that could say so.
    if (page.url().startsWith('http'))
      await page.locator('html[data-ready]').waitFor({ state: 'attached' });
  };
  const [go, reload] = [page.goto.bind(page), page.reload.bind(page)];
  page.goto = async (...way) => {
    const answer = await go(...way);
    await ready();
    return answer;
  };
  page.reload = async (...way) => {
    const answer = await reload(...way);
    await ready();
    return answer;
  };
}

/** The stage of a file of tests. @param settings of its server */
export function useStage(
  settings: () => Promise<Record<string, string>> = async () => ({}),
  options: StageOptions = {},
): Stage {
  const stage = new Stage(options);
  beforeAll(async () => {
    try {
      await stage.set(await settings());
    } catch (error) {
      await stage.strike();
      throw error;
    }
  });
  afterEach(async ({ task }) => {
    const [failure] = task.result?.state === 'fail' ? (task.result.errors ?? []) : [];
    if (failure)
      failure.message += `\n${await stage.tell()}\nkept in ${await stage.keep(task.name)}`;
    await stage.clear();
    const [error] = stage.errors.splice(0);
    if (error) throw error;
  });
  afterAll(() => stage.strike());
  return stage;
}

/** Selects these words in the page's text, as a drag of the mouse would. */
export async function selectWords(page: Page, words: string): Promise<void> {
  await page.locator('.ProseMirror').first().waitFor();
  await page.evaluate((wanted) => {
    const editor = document.querySelector<HTMLElement>('.ProseMirror');
    if (!editor) throw new Error('no page here');
    const walker = document.createTreeWalker(editor, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const at = node.textContent?.indexOf(wanted) ?? -1;
      if (at < 0) continue;
      editor.focus();
      getSelection()?.setBaseAndExtent(node, at, node, at + wanted.length);
      return;
    }
    throw new Error(`"${wanted}" is not on the page`);
  }, words);
}

/** Waits until all that was typed is with the server. */
export const saved = (page: Page): Promise<void> =>
  page.getByText('everything is saved').first().waitFor();

/** Waits, without a network, until this browser keeps all that was typed. */
export const keptHere = (page: Page): Promise<void> =>
  page
    .locator('[role=status][aria-busy=false]', { hasText: 'your words are kept in this browser' })
    .waitFor();

/** Puts the cursor into an answer, and waits until the browser has told where it is. */
export async function enterAnswer(page: Page, answer: Locator): Promise<void> {
  await answer.click();
  await page.evaluate(
    () => new Promise((seen) => requestAnimationFrame(() => requestAnimationFrame(seen))),
  );
}

/**
 * Requests to an address wait until they are let go. Scripts and styles do in a browser that blocks service
 * workers alone: what a worker asks for is not met.
 * @param method the only one that waits; each does where there is none
 * @param read whether the server is asked at once, so that what comes late is what was read before
 * @returns `asked` comes true with the first of them
 */
export async function holdBack(
  of: Page,
  address: string | RegExp,
  { method, read = false }: { method?: string; read?: boolean } = {},
): Promise<{ asked: Promise<void>; letGo: () => void }> {
  let letGo = () => {};
  const released = new Promise<void>((resolve) => (letGo = resolve));
  let met = () => {};
  const asked = new Promise<void>((resolve) => (met = resolve));
  await of.route(address, async (route) => {
    if (method && route.request().method() !== method) return route.continue();
    const response = read ? await route.fetch() : undefined;
    met();
    await released;
    return response ? route.fulfill({ response }) : route.continue();
  });
  return { asked, letGo };
}
