import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { useStage } from '../support/stage';

const stage = useStage();

async function toAssignment(page: Page) {
  await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
  const board = page.getByRole('region', { name: 'Board of 8C' });
  await board.getByRole('link', { name: 'A light’s character' }).click();
}

describe('classmates', () => {
  it('score each other’s copies without names; the teacher sees it first, and it goes back with the copy', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey');
    await toAssignment(tamsin);
    await tamsin.getByRole('link', { name: 'Classmates’ scoring' }).click();
    const form = tamsin.getByRole('form', { name: 'Deal copies to classmates' });
    await form.getByRole('spinbutton').fill('400');
    await form.getByText(/each student can score \d+ at most/).waitFor();
    await form.getByRole('spinbutton').fill('2');
    await form.getByRole('button', { name: /^Deal \d+ copies$/ }).click();
    await tamsin.getByText('The copies are dealt to classmates.').waitFor();
    const row = (name: string | RegExp) => tamsin.getByRole('row', { name });
    await row('Ada Fennick 0 of 2 0 of 2').waitFor();

    const { page: ada } = await stage.enter('ada.fennick');
    const toScore = ada.getByRole('link', { name: /^A light’s character .* to score$/ });
    await toScore.first().waitFor();
    expect(await toScore.count()).toBe(2);
    await toScore.first().click();
    await ada.getByRole('document', { name: 'A classmate’s copy' }).waitFor();
    const own = ada.getByRole('region', { name: 'Score this copy' });
    await own.getByRole('radiogroup', { name: 'Timing' }).getByRole('radio').first().focus();
    await ada.keyboard.press('2');
    await own.getByLabel('Why, for Timing').fill('Measured once, I think.');
    await own.getByRole('button', { name: 'Save my scoring' }).click();
    await own.getByRole('button', { name: 'Saved' }).waitFor();
    await ada.getByRole('link', { name: 'Next copy to score' }).click();
    await own.getByRole('button', { name: 'Save my scoring' }).waitFor();
    await ada.getByRole('link', { name: 'My work' }).last().click();
    await ada.getByText('Copies of classmates to score').waitFor();
    await expect.poll(() => toScore.count()).toBe(1);

    // Nothing of it stays in the browser.
    const kept = await ada.evaluate(async () => {
      const pages = await caches.open('uncia pages');
      return (await pages.keys()).map(({ url }) => new URL(url).pathname);
    });
    expect(kept.filter((path) => path.includes('classmates'))).toEqual([]);

    // The teacher hears of it as it comes.
    await row('Ada Fennick 1 of 2 0 of 2').waitFor();
    const got = row(/1 of 2$/).getByRole('link');
    const name = (await got.textContent()) ?? '';
    await got.click();
    await tamsin.getByRole('textbox', { name: `${name}’s copy` }).waitFor();
    await tamsin.getByText('classmates: 2').waitFor();
    const given = tamsin.getByRole('region', { name: 'From classmates' });
    await given.getByText('From classmates · 1').click();
    await given.getByRole('heading', { name: 'Ada Fennick' }).waitFor();
    await given.getByText('Measured once, I think.').waitFor();
    await given.getByRole('button', { name: 'Withhold' }).click();
    await given.getByText('Withheld: it does not go back.').waitFor();
    await given.getByRole('button', { name: 'Let it go back' }).click();
    await given.getByRole('button', { name: 'Withhold' }).waitFor();

    const { page: owner } = await stage.enter(name.toLowerCase().replace(' ', '.'));
    await owner
      .getByRole('link', { name: /^(\S+ )?A light’s character/ })
      .filter({ hasNotText: 'to score' })
      .first()
      .click();
    await owner.getByRole('heading', { name: 'A light’s character', level: 1 }).waitFor();
    const back = owner.getByRole('region', { name: 'From classmates' });
    expect(await back.count()).toBe(0);
    await tamsin.getByRole('button', { name: /^Hand back( again)?$/ }).click();
    const said = back.getByRole('article', { name: /^A classmate/ });
    await said.getByText('Measured once, I think.').waitFor();
    expect(await back.textContent()).not.toContain('Ada');
  });

  it('are asked no more when the teacher says so, and again when that is undone', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey');
    await toAssignment(tamsin);
    await tamsin.getByRole('link', { name: 'Classmates’ scoring' }).click();
    await tamsin.getByRole('button', { name: 'Deal anew …' }).click();
    await tamsin.getByRole('button', { name: 'Ask nobody any more' }).click();
    await tamsin.getByText('Nobody is asked to score any more.').waitFor();
    const { page: ada } = await stage.enter('ada.fennick');
    await ada.getByRole('heading', { name: 'My work' }).waitFor();
    expect(await ada.getByText('Copies of classmates to score').count()).toBe(0);
    await tamsin.getByRole('button', { name: 'Undo', exact: true }).click();
    await ada.getByText('Copies of classmates to score').waitFor();
  });
});
