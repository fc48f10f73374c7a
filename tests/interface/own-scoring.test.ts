import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { useStage } from '../support/stage';

const stage = useStage();

const choose = async (page: Page, criterion: string, level: string) => {
  await page.getByRole('radiogroup', { name: criterion }).getByRole('radio').first().focus();
  await page.keyboard.press(level);
};

describe('a student', () => {
  it('scores their own copy first; who marks sees it, and both stand side by side when it is back', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey');
    await tamsin.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    const board = tamsin.getByRole('region', { name: 'Board of 8C' });
    await board.getByRole('link', { name: 'A light’s character' }).click();
    await tamsin.getByText('Students score themselves by the rubric first').click();
    const asked = tamsin.getByRole('checkbox', { name: /^Students score themselves/ });
    await expect.poll(() => asked.isChecked()).toBe(true);

    const { page: malik } = await stage.enter('malik.garrow');
    await malik
      .getByRole('link', { name: /A light’s character/ })
      .first()
      .click();
    const own = malik.getByRole('region', { name: 'Score it yourself' });
    await own.waitFor();
    await malik.getByRole('button', { name: 'Hand in' }).click();
    await malik.getByText('You have not scored it yourself yet').waitFor();
    await malik.getByRole('button', { name: 'Cancel' }).click();
    await choose(malik, 'Timing', '3');
    await choose(malik, 'Reasons', '1');
    await own.getByLabel('Why, for Timing').fill('I measured it twice.');
    await own.getByRole('button', { name: 'Save my scoring' }).click();
    await own.getByRole('button', { name: 'Saved' }).waitFor();
    await malik.getByRole('button', { name: 'Hand in' }).click();
    const sheet = malik.getByRole('dialog');
    expect(await sheet.textContent()).not.toContain('have not scored');
    await sheet.getByRole('button', { name: 'Hand in' }).click();
    await malik.getByText('handed in').first().waitFor();
    // It stays to be read, and cannot be changed while it is with the teacher.
    await own.getByText('I measured it twice.').waitFor();
    expect(await own.getByRole('radio').count()).toBe(0);

    await tamsin.getByRole('link', { name: 'Mark', exact: true }).click();
    const line = tamsin.getByRole('navigation', { name: 'Students' });
    await line.getByRole('link', { name: 'Garrow, Malik' }).click();
    await tamsin.getByRole('textbox', { name: 'Malik Garrow’s copy' }).waitFor();
    await tamsin.getByText('student: 3').waitFor();
    await tamsin.getByRole('button', { name: 'Timing', exact: true }).click();
    await tamsin.getByText('They say: I measured it twice.').waitFor();
    await choose(tamsin, 'Timing', '2');
    await tamsin.getByRole('button', { name: 'Hand back', exact: true }).click();
    await malik
      .getByRole('region', { name: 'Feedback sheet' })
      .getByText('2 of 4; you: 3')
      .waitFor();
  });

  it('is told when it was scored elsewhere or its rubric changed, and loses nothing', async () => {
    const { page: tamsin } = await stage.enter('tamsin.orrey');
    const open = async () => {
      const { page } = await stage.enter('viggo.ekholm');
      await page
        .getByRole('link', { name: /A light’s character/ })
        .first()
        .click();
      const own = page.getByRole('region', { name: 'Score it yourself' });
      await own.waitFor();
      return { page, own };
    };
    const desk = await open();
    const phone = await open();
    await choose(desk.page, 'Timing', '3');
    await choose(phone.page, 'Timing', '2');
    await phone.own.getByRole('button', { name: 'Save my scoring' }).click();
    await phone.own.getByRole('button', { name: 'Saved' }).waitFor();
    await desk.own.getByRole('button', { name: 'Save my scoring' }).click();
    await desk.own.getByText('It was scored meanwhile').waitFor();
    await desk.own.getByRole('button', { name: 'Save mine over it' }).click();
    await desk.own.getByRole('button', { name: 'Saved' }).waitFor();
    await choose(phone.page, 'Timing', '1');
    await phone.own.getByRole('button', { name: 'Save my scoring' }).click();
    await phone.own.getByRole('button', { name: 'Take that' }).click();
    await phone.own.locator('input[value="3"]:checked').waitFor({ state: 'attached' });
    expect(await phone.own.getByRole('alert').count()).toBe(0);

    await tamsin.goto('/courses');
    await tamsin.getByRole('link', { name: 'Coast & Chart' }).first().click();
    await tamsin.getByRole('link', { name: 'Working with lights' }).click();
    await tamsin.getByLabel('Timing, 4 points').fill('Measured three times.');
    await tamsin.keyboard.press('Tab');
    await tamsin.getByText('everything is saved').waitFor();
    await choose(desk.page, 'Timing', '4');
    await desk.own.getByRole('button', { name: 'Save my scoring' }).click();
    await desk.own.getByText('The rubric was changed just now.').waitFor();
    await desk.own.getByText('4: Measured three times.').first().waitFor();
    await desk.own.getByRole('button', { name: 'Save my scoring' }).click();
    await desk.own.getByRole('button', { name: 'Saved' }).waitFor();
    await phone.page.reload();
    await phone.own.locator('input[value="4"]:checked').waitFor({ state: 'attached' });
  });
});
