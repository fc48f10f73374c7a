import { describe, expect, it } from 'vitest';
import { useStage } from '../support/stage';

const stage = useStage();

describe('a copy that came again', () => {
  it('shows both scorings side by side, and its student what changed and why', async () => {
    const { page: luca } = await stage.enter('luca.marchetti');
    await luca
      .getByRole('link', { name: /A light’s character/ })
      .first()
      .click();
    const aside = luca.getByRole('complementary', { name: 'From your teachers' });
    await aside.getByText('You can go on with this page, and hand it in again.').waitFor();
    expect(await luca.getByRole('region', { name: 'Last time' }).count()).toBe(0);
    await luca.getByRole('button', { name: 'Hand in again' }).click();
    await luca.getByRole('dialog').getByRole('button', { name: 'Hand in', exact: true }).click();
    await luca.getByText(/^handed in/).waitFor();
    const copy = luca.url().split('/').at(-1) ?? '';

    const { page: tamsin } = await stage.enter('tamsin.orrey');
    await tamsin.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await tamsin.waitForURL(/classes\//);
    await tamsin.goto(`${new URL(tamsin.url()).pathname}/marking/${copy}`);
    const before = tamsin.getByRole('region', { name: 'Last time' });
    await before.getByText(/^Last time it came back .* 13½ of 20 points\.$/s).waitFor();
    const line = (name: string) => before.getByRole('row', { name: new RegExp(`^${name}`) });
    expect(await line('Timing').innerText()).toMatch(/the same$/);
    const timing = tamsin.getByRole('radiogroup', { name: 'Timing' });
    await timing.getByRole('radio').first().focus();
    await tamsin.keyboard.press('4');
    await tamsin
      .getByLabel('What changed since last time, for the student')
      .fill('You timed it “three times” now.');
    await tamsin.getByRole('button', { name: 'Save', exact: true }).click();
    await expect.poll(() => line('Timing').innerText()).toMatch(/4\s+\S+ more$/);
    // Nothing of it is with the student before it is back.
    expect(await luca.getByText('You timed it').count()).toBe(0);
    await tamsin.getByRole('button', { name: 'Hand back', exact: true }).click();
    await aside.getByText('You timed it “three times” now.').waitFor();
    const own = luca.getByRole('region', { name: 'Last time' });
    await own.getByRole('row', { name: /^Timing.* more$/ }).waitFor();
    await own.getByRole('row', { name: /^Wording.* the same$/ }).waitFor();
  });
});
