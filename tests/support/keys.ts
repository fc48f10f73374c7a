import type { Page } from 'playwright-core';

/** What somebody hears of the element that has the focus. */
export const focusedName = (page: Page) =>
  page.evaluate(() => {
    const element = document.activeElement;
    if (!element || element === document.body) return '';
    const labels =
      element instanceof HTMLInputElement ||
      element instanceof HTMLTextAreaElement ||
      element instanceof HTMLSelectElement
        ? [...(element.labels ?? [])]
        : [];
    return [
      element.getAttribute('aria-label'),
      ...labels.map((label) => label.textContent),
      element.textContent,
    ]
      .map((text) => text?.trim())
      .filter(Boolean)
      .join(' ');
  });

/** Presses a key until the element with that name has the focus, as somebody without a mouse does. */
export async function pressTo(page: Page, key: string, name: RegExp, most: number): Promise<void> {
  for (let i = 0; i < most; i++) {
    await page.keyboard.press(key);
    if (name.test(await focusedName(page))) return;
  }
  throw new Error(`${key} does not reach ${name}`);
}

/** Tab, until the element with that name has the focus. */
export const reach = (page: Page, name: RegExp): Promise<void> => pressTo(page, 'Tab', name, 150);
