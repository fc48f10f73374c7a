import { Chance } from '../../demo/chance';
import { schema } from '../../src/lib/core/page/schema';
import type { App } from '../../src/lib/server/app';
import { launch, openBrowser, signIn } from '../../tests/support/browser';
import { assign, PASSWORD, type TestSchool } from '../../tests/support/school';
import { Server } from '../../tests/support/server';
import { figure, quantile } from './figure';

const WORDS = 10_000;
const STROKES = 300;
const SLOWED = 4;
const KEYS = 120;
/** Ten keys a second: faster than most. In milliseconds. */
const KEY = 100;

/** A page of 10,000 words in paragraphs of a hundred, with a drawing of 300 strokes in its middle. */
function longPage() {
  const chance = new Chance(WORDS);
  const words = [
    'the',
    'water',
    'rises',
    'slowly',
    'at',
    'first',
    'and',
    'harbour',
    'then',
    'light',
  ] as const;
  const paragraph = () =>
    schema.node('paragraph', null, [
      schema.text(Array.from({ length: 100 }, () => chance.one(words)).join(' ')),
    ]);
  const strokes = Array.from({ length: STROKES }, (_, n) => {
    let [x, y] = [chance.whole(50, 900), chance.whole(50, 500)];
    const points = Array.from({ length: 40 }, () => {
      x += chance.whole(-4, 6);
      y += chance.whole(-4, 4);
      return `${x},${y},50`;
    });
    return schema.node('stroke', { id: `s${n}`, points: points.join(' ') });
  });
  const half = Array.from({ length: WORDS / 200 }, paragraph);
  return schema.node('doc', null, [
    ...half,
    schema.node('answer_drawing', { id: 'way' }, strokes),
    schema.node('answer_writing', { id: 'why', aim: 0 }, [paragraph()]),
    ...Array.from({ length: WORDS / 200 }, paragraph),
  ]);
}

/** Frames while somebody types into a very long page with a drawing, on a processor slowed to a quarter. */
export async function typingFrames(app: App, url: string, school: TestSchool): Promise<void> {
  const { copies } = await assign(app, school, { page: longPage(), guarded: false });
  const server = await Server.start(url);
  const browser = await launch();
  const { page, context } = await openBrowser(browser, server.origin);
  await signIn(page, `student1${school.id}`, PASSWORD);
  await page.goto(`/work/${copies[0]}`);
  const writing = page.locator('.answer-writing');
  await writing.waitFor();
  await page.waitForTimeout(3000);
  await writing.click();
  await page.keyboard.press('End');
  const devtools = await context.newCDPSession(page);
  await devtools.send('Emulation.setCPUThrottlingRate', { rate: SLOWED });
  // As text: what compiles this file would name the function inside, and the browser has no such helper.
  await page.evaluate(`
    window.typingFrames = [];
    let last = performance.now();
    requestAnimationFrame(function tick(now) {
      window.typingFrames.push(now - last);
      last = now;
      requestAnimationFrame(tick);
    });
  `);
  for (let i = 0; i < KEYS; i++) {
    await page.keyboard.type('a');
    await page.waitForTimeout(KEY);
  }
  const frames: number[] = await page.evaluate('window.typingFrames');
  const all = frames.slice(5);
  figure('typing.frame', quantile(all, 0.95), 'ms');
  figure('typing.frames', (1000 * all.length) / all.reduce((sum, one) => sum + one, 0), '1/s');
  await browser.close();
  await server.stop();
}
