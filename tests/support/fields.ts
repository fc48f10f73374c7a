import type { Locator, Page } from 'playwright-core';

type Place = Page | Locator;

/** Chooses one of many in the field of that label, by typing some of it. */
export async function pick(place: Place, label: string, option: string): Promise<void> {
  const field = place.getByRole('combobox', { name: label });
  await field.fill(option);
  const page = 'page' in place ? place.page() : place;
  await page.getByRole('option', { name: option, exact: true }).click();
}

/** Types a day and a time into the two fields of a moment. */
export async function fillMoment(
  place: Place,
  label: string,
  day: string,
  time: string,
): Promise<void> {
  await place.getByLabel(`${label}, day`).fill(day);
  await place.getByLabel(`${label}, time`).fill(time);
  await place.getByLabel(`${label}, time`).press('Tab');
}

export interface GivenFile {
  name: string;
  contents: string | Buffer;
}

/** Chooses files in the window that the browser opens for it. */
export async function giveFiles(
  page: Page,
  button: string | RegExp,
  ...files: GivenFile[]
): Promise<void> {
  const asked = page.waitForEvent('filechooser');
  await page.getByRole('button', { name: button }).click();
  await (
    await asked
  ).setFiles(
    files.map(({ name, contents }) => ({
      name,
      mimeType: 'application/octet-stream',
      buffer: Buffer.from(contents),
    })),
  );
}
