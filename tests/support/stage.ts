import type {
  Browser,
  BrowserContext,
  BrowserContextOptions,
  Locator,
  Page,
} from 'playwright-core';
import { afterAll, afterEach, beforeAll, inject } from 'vitest';
import { PASSWORD } from '../../demo/people';
import { launch, openBrowser, signIn } from './browser';
import { freshDatabase, queriesIn } from './database';
import { Server } from './server';

/** The demo school, or an empty one, on a server of its own, and browsers for its people. */
export class Stage {
  private browser: Browser | null = null;
  private running: Server | null = null;
  private readonly entered: BrowserContext[] = [];
  /** What went wrong in the pages of the test that runs. */
  readonly errors: Error[] = [];

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

  /** What everybody sees, and where they are in it, for whoever reads of a test that failed. */
  async tell(): Promise<string> {
    const told: string[] = [];
    for (const context of this.entered)
      for (const page of context.pages()) {
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

  /** Everybody leaves, so that no page goes on by itself in the next test. */
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
    if (!this.browser) throw new Error('the stage is not set');
    const opened = await openBrowser(this.browser, this.server.origin, device);
    this.entered.push(opened.context);
    opened.context.on('weberror', (webError) => this.errors.push(webError.error()));
    opened.page.setDefaultTimeout(Number(process.env.PATIENCE ?? 100_000));
    const { page } = opened;
    const go = page.goto.bind(page);
    const ready = () => page.locator('html[data-ready]').waitFor({ state: 'attached' });
    // A view that has just been loaded shows its buttons before they answer.
    page.goto = async (...way) => {
      const answer = await go(...way);
      await ready();
      return answer;
    };
    if (name) {
      await signIn(page, name, PASSWORD);
      await ready();
    }
    return opened;
  }
}

export function useStage(
  settings: () => Promise<Record<string, string>> = async () => ({}),
): Stage {
  const stage = new Stage();
  beforeAll(async () => stage.set(await settings()));
  afterEach(async ({ task }) => {
    const [failure] = task.result?.state === 'fail' ? (task.result.errors ?? []) : [];
    if (failure) failure.message += `\n${await stage.tell()}`;
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
  await caretTold(page);
}

/** Waits until the browser has told where the cursor is. */
export async function caretTold(page: Page): Promise<void> {
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
