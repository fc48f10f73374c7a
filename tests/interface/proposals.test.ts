import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { enterAnswer, saved, selectWords, useStage } from '../support/stage';

const stage = useStage();

/** Chooses how to write in a copy. */
const choose = (page: Page, manner: 'Comment' | 'Propose' | 'Write') =>
  page
    .getByRole('radiogroup', { name: 'How you write in this copy' })
    .getByText(manner, { exact: true })
    .click();

/** A student's copy with words in it, and how their teacher finds it. */
async function write(name: string, family: string, words: string) {
  const { page: student } = await stage.enter(name);
  await student.getByRole('link', { name: 'Harbour sketch' }).first().click();
  await enterAnswer(student, student.locator('.answer-writing').first());
  await student.keyboard.type(words);
  await saved(student);
  const { page: teacher } = await stage.enter('tamsin.orrey');
  await teacher.getByRole('link', { name: '8C Coast & Chart' }).first().click();
  await teacher.waitForURL(/classes/);
  const klass = /classes\/([^/?]+)/.exec(teacher.url())?.[1] ?? '';
  await teacher.goto(`/classes/${klass}/marking/${student.url().split('/').at(-1)}`);
  await teacher.getByRole('heading', { name: new RegExp(family) }).waitFor();
  return { student, teacher };
}

/** Selects words until the editor holds them, and types over them. */
async function typeOver(page: Page, words: string, becomes: string) {
  await selectWords(page, words);
  await expect.poll(() => page.evaluate(() => String(getSelection()))).toBe(words);
  await page.keyboard.type(becomes);
}
const answer = (page: Page) => page.locator('.answer-writing').first();
const card = (page: Page, name: string | RegExp) => page.getByRole('article', { name });

describe('a teacher who proposes', () => {
  it('writes beside the student’s page; the student takes one, leaves another, undoes, and writes on', async () => {
    const { student, teacher } = await write(
      'june.hesper',
      'Hesper',
      'The water go up slowly. I would wait to be sure and.',
    );
    await choose(teacher, 'Propose');
    await teacher.getByRole('textbox', { name: /to propose in/ }).waitFor();
    // Letters that are keys elsewhere in this view are letters here.
    await typeOver(teacher, 'go', 'goes');
    await typeOver(teacher, ' and.', '.');
    // Who goes on to another place has ended the one before.
    await card(teacher, 'Proposal: goes for go').waitFor();
    await choose(teacher, 'Comment');
    await card(teacher, 'Proposal: − and').waitFor();

    const take = card(student, 'Proposal: goes for go');
    await take.waitFor();
    expect(await answer(student).locator('p').textContent()).toContain('The water gogoes up');
    await expect.poll(() => answer(student).locator('ins').allTextContents()).toEqual(['goes']);
    // The student goes on meanwhile, and the proposals stay on their words.
    await enterAnswer(student, student.locator('.answer-number').first());
    await student.keyboard.type('2.4');
    await saved(student);
    await take.getByRole('button', { name: 'Take' }).click();
    await student.getByText('1 decided').waitFor();
    await expect.poll(() => answer(student).textContent()).toContain('The water goes up slowly.');
    await card(student, /^Proposal: − and/)
      .getByRole('button', { name: 'Leave' })
      .click();
    await student.getByText('2 decided').waitFor();
    await expect.poll(() => answer(student).textContent()).toContain('to be sure and.');
    // Both see what became of each.
    await teacher.getByText('2 decided').click();
    await teacher.getByText(/proposed by you · taken by June/).waitFor();
    await teacher.getByText(/proposed by you · left by June/).waitFor();
    await student.getByText('2 decided').click();
    await take.getByRole('button', { name: 'Undo' }).click();
    await card(student, 'Proposal: goes for go').getByRole('button', { name: 'Take' }).waitFor();
    await expect.poll(() => answer(student).locator('ins').allTextContents()).toEqual(['goes']);
  });

  it('whose student wrote other words there sees that it has no place any more', async () => {
    const { student, teacher } = await write(
      'priya.dunmore',
      'Dunmore',
      'The water go up slowly. I would wait.',
    );
    await choose(teacher, 'Propose');
    await typeOver(teacher, 'slowly', 'slowly at first');
    await choose(teacher, 'Comment');
    await card(student, /at first/).waitFor();
    await typeOver(student, 'slowly', 'fast');
    await saved(student);
    await student.getByText('it has no place in the page any more').waitFor();
    await teacher.getByText('it has no place in the page any more').waitFor();
    expect(
      await card(student, /at first/)
        .getByRole('button', { name: 'Take' })
        .count(),
    ).toBe(0);
    await card(teacher, /at first/)
      .getByRole('button', { name: 'Withdraw' })
      .click();
    await student.getByText('1 decided').waitFor();
  });

  it('writes in the page itself, of which the student is told', async () => {
    const { student, teacher } = await write('kaisa.ilves', 'Ilves', 'I would wait.');
    await choose(teacher, 'Write');
    await teacher.getByRole('toolbar', { name: 'Writing' }).waitFor();
    await typeOver(teacher, 'wait', 'wait at the steps');
    await expect.poll(() => answer(student).textContent()).toContain('wait at the steps');
    await student.goto('/mailbox');
    await student.getByText('Ms Orrey wrote in Harbour sketch').waitFor();
  });

  it('keeps comments back until the copy goes back, and some for the staff alone', async () => {
    const { student, teacher } = await write('freja.nyquist', 'Nyquist', 'I would wait.');
    const write_ = async (text: string) => {
      await teacher.getByRole('textbox', { name: /^On / }).fill(text);
      return teacher.getByRole('button', { name: 'Add comment' }).click();
    };
    await teacher.getByText('Send when the copy goes back').click();
    await write_('Comes later.');
    await teacher
      .getByText('goes with the copy when it is handed back', { exact: false })
      .first()
      .waitFor();
    await teacher.getByText('Comes later.').waitFor();
    await teacher.getByText('Send when the copy goes back').click();
    await write_('Why would you?');
    await student.getByText('Why would you?').waitFor();
    await student.getByText('waits for your answer').waitFor();
    await teacher.getByText('waits for the student').waitFor();
    expect(await student.getByText('Comes later.').count()).toBe(0);
  });
});
