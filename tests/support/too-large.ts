import type { Page } from 'playwright-core';

/** By how many pixels a view, or its main part, is wider than its window. */
export const tooWide = (page: Page): Promise<number> =>
  page.evaluate(() =>
    [document.documentElement, ...document.querySelectorAll('main')]
      .map((one) => one.scrollWidth - one.clientWidth)
      .reduce((most, by) => Math.max(most, by), 0),
  );

/** By how many pixels a page is longer than its window: where there is a header it stays, and the view scrolls in itself. */
export const tooLong = (page: Page): Promise<number> =>
  page.evaluate(() =>
    document.querySelector('header') ? document.documentElement.scrollHeight - innerHeight : 0,
  );
