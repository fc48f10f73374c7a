import type { Page } from 'playwright-core';

/** Begins an original in the first unit of Coast & Chart, from the course itself, and puts the cursor on its page. */
export async function beginOriginal(page: Page, title: string): Promise<void> {
  await page.goto('/courses');
  await page.getByRole('link', { name: 'Coast & Chart' }).click();
  await page.getByLabel('Title of a new page in The tide').fill(title);
  await page.getByRole('button', { name: 'Create in The tide' }).click();
  await page.getByRole('textbox', { name: `${title}, the original` }).click();
}
