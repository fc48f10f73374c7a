import { describe, expect, it } from 'vitest';
import { useStage } from '../support/stage';

const stage = useStage();

describe('a class at a glance', () => {
  it('has its spread, each criterion, and the copies behind every bar', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    const board = page.getByRole('region', { name: 'Board of 8C' });
    await board.getByRole('link', { name: 'A light’s character' }).click();
    await page.getByRole('link', { name: 'At a glance' }).click();
    await page
      .getByText(/^12 copies have points, of 20: from .* the standard deviation/s)
      .waitFor();
    const bars = page.getByRole('group', { name: 'Points' }).getByRole('button');
    const counts = (await bars.evaluateAll((all) => all.map((bar) => bar.ariaLabel))).map((says) =>
      Number(/: (\d+) cop/.exec(says ?? '')?.[1]),
    );
    expect(counts.reduce((sum, one) => sum + one, 0)).toBe(12);
    const timing = page.getByRole('group', { name: 'Timing' });
    const full = timing.getByRole('button', { name: /^4: / });
    const says = await full.getAttribute('aria-label');
    await full.click();
    const behind = page.getByRole('list', { name: 'Copies of 4' }).getByRole('link');
    expect(`4: ${await behind.count()} copies`).toBe(says);
    const name = await behind.first().innerText();
    await behind.first().click();
    await page.getByRole('heading', { level: 1, name }).waitFor();
  });

  it('has the facility and discrimination of what was scored part by part', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8A Coast & Chart' }).first().click();
    const board = page.getByRole('region', { name: 'Board of 8A' });
    await board.getByRole('link', { name: 'Tides test' }).click();
    await page.getByRole('link', { name: 'At a glance' }).click();
    await page
      .getByText(/^Facility \d+ %, discrimination −?\d\.\d\d: /)
      .first()
      .waitFor();
    expect(await page.getByRole('heading', { name: 'By criterion' }).count()).toBe(0);
  });
});
