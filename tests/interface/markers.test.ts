import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { useStage } from '../support/stage';

const stage = useStage();

/** The markers of an assignment, from its class's board. */
async function openMarkers(page: Page, klass: string, title: string) {
  await page
    .getByRole('link', { name: `${klass} Coast & Chart` })
    .first()
    .click();
  const board = page.getByRole('region', { name: `Board of ${klass}` });
  await board.getByRole('link', { name: title }).click();
  await page.waitForURL(/\/assignments\//);
  await page.getByRole('link', { name: 'Markers' }).click();
  await page.getByRole('heading', { name: `Markers of ${title}` }).waitFor();
}
const progress = (page: Page) =>
  page.getByRole('table').first().locator('tbody tr').allInnerTexts();

describe('several who mark', () => {
  it('settle what two gave a copy, and see how far they agree', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await openMarkers(page, '8B', 'A light’s character');
    const rows = page.getByRole('region', { name: 'Agreement' }).locator('tbody tr');
    expect(await rows.first().innerText()).toMatch(/^Character\s+\d\d\s+\d+ %\s+\d+ %\s+0\.\d\d/);
    await page.getByText(/^Both gave the same to /).waitFor();
    await page.getByRole('button', { name: /^Let / }).click();
    await page.getByText(/^Both gave the same to /).waitFor({ state: 'detached' });
    const forms = page.getByRole('form', { name: /^Settle / });
    const before = await forms.count();
    const first = forms.first();
    const settle = first.getByRole('button', { name: 'Settle' });
    expect(await settle.isDisabled()).toBe(true);
    for (const line of await first.getByRole('group').all())
      await line.getByRole('radio').first().check();
    await settle.click();
    await expect.poll(() => forms.count()).toBe(before - 1);
  });

  it('are dealt copies, and mark the same one without seeing what the other gives', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey');
    await openMarkers(tamsin, '8C', 'Rule of twelfths');
    await tamsin.getByLabel('Marked by two').fill('22');
    await tamsin.getByText(/^Ms Lindqvist 22 and Ms Orrey 22\./).waitFor();
    await tamsin.getByRole('button', { name: 'Deal 22 copies' }).click();
    await tamsin.getByText('The copies are dealt.').waitFor();
    // Those that were marked before stay so, for both.
    expect((await progress(tamsin)).map((row) => row.replaceAll(/\s+/g, ' '))).toEqual([
      'Ms Lindqvist marker 22 19 1',
      'Ms Orrey lead 22 19 1',
    ]);
    const address = tamsin.url().replace(/markers$/, 'marking');
    await tamsin.goto(address);
    await tamsin.getByText(/without seeing what the other gives/).waitFor();
    const copy = tamsin.url();
    await tamsin.getByRole('textbox', { name: 'Points', exact: true }).fill('6');
    expect(await tamsin.getByRole('button', { name: 'Hand back', exact: true }).count()).toBe(0);
    await tamsin.getByRole('button', { name: 'Save', exact: true }).click();
    await tamsin.getByRole('listitem').filter({ hasText: 'you have scored it' }).waitFor();

    const { page: bea } = await stage.enter('bea.lindqvist');
    await bea.goto(copy);
    const points = bea.getByRole('textbox', { name: 'Points', exact: true });
    await points.waitFor();
    expect(await points.inputValue()).toBe('');
    await points.fill('7');
    await points.press('Enter');
    await bea.getByText('have both scored this copy').waitFor();
    // The other's view hears of it.
    await tamsin.getByText('have both scored this copy').waitFor();
    await tamsin.getByRole('link', { name: 'Settle …' }).click();
    await tamsin.getByRole('radio', { name: '6½ in the middle' }).check();
    await tamsin.getByRole('button', { name: 'Settle' }).click();
    await tamsin.getByText('Nothing to settle now.').waitFor();
    await tamsin.goto(copy);
    await expect
      .poll(() => tamsin.getByRole('textbox', { name: 'Points', exact: true }).inputValue())
      .toBe('6½');
    await tamsin.getByRole('button', { name: 'Hand back', exact: true }).waitFor();
  });

  it('have no markers to choose where nobody but them marks, and undo what was dealt', async () => {
    const { page } = await stage.enter('tamsin.orrey');
    await openMarkers(page, '8A', 'Rule of twelfths');
    await page.getByLabel('Marked by two').fill('1');
    await page.getByText('It takes two people to mark a copy twice.').waitFor();
    expect(await page.getByRole('button', { name: /^Deal \d/ }).isDisabled()).toBe(true);
    await page.getByLabel('Marked by two').fill('0');
    await page.getByRole('button', { name: /^Deal \d/ }).click();
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByText('Nobody in particular: whoever comes marks.').waitFor();
  });
});
