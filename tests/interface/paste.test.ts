import type { Page } from 'playwright-core';
import { describe, expect, it } from 'vitest';
import { beginOriginal } from '../support/begin-original';
import { keptHere, useStage } from '../support/stage';

const stage = useStage(undefined, { serviceWorkers: 'allow' });

/** A picture of one pixel: the smallest PNG that is one. */
const PIXEL =
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';

/** Pastes as the browser would, with what a word processor puts on the clipboard. */
const paste = (page: Page, html: string, text = '') =>
  page.evaluate(
    ([html, text]) => {
      const data = new DataTransfer();
      if (html) data.setData('text/html', html);
      data.setData('text/plain', text ?? '');
      document
        .querySelector('.ProseMirror')
        ?.dispatchEvent(
          new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }),
        );
    },
    [html, text],
  );

async function begin(title: string) {
  const { page } = await stage.enter('tamsin.orrey');
  await beginOriginal(page, title);
  return page;
}

describe('pasting', () => {
  it('makes a clean page of a whole worksheet, pictures included, and runs nothing', async () => {
    const page = await begin('Pasted worksheet');
    const asked: string[] = [];
    page.on('request', (request) => asked.push(request.url()));
    await paste(
      page,
      `<p class=MsoTitle>Tides</p><h2>Look</h2>
       <p style='mso-list:l0 level1 lfo1'><span style='mso-list:Ignore'>·</span>one</p>
       <p style='mso-list:l0 level1 lfo1'><span style='mso-list:Ignore'>·</span>two</p>
       <table><tr><td>hour</td><td>height</td></tr></table>
       <p><img src="data:image/png;base64,${PIXEL}" alt="quay"><img src="https://elsewhere.example/spy.png"></p>
       <script>window.ran = true</script><img src=x onerror="window.ran = true">
       <p onclick="window.ran=true">Last <a href="javascript:window.ran=true">words</a></p>`,
    );
    const text = page.locator('.ProseMirror');
    await text.getByRole('heading', { name: 'Tides' }).waitFor();
    expect(await text.getByRole('listitem').allTextContents()).toEqual(['one', 'two']);
    expect(await text.locator('td').allTextContents()).toEqual(['hour', 'height']);
    const picture = text.getByRole('img', { name: 'quay' });
    await picture.waitFor();
    expect(
      await picture.evaluate((img: HTMLImageElement) => img.decode().then(() => img.naturalWidth)),
    ).toBe(1);
    expect(await text.getByRole('img').count()).toBe(1);
    expect(await text.locator('a').count()).toBe(0);
    await page.getByText('2 pictures stayed behind').waitFor();
    expect(await page.evaluate(() => 'ran' in window)).toBe(false);
    expect(asked.filter((url) => url.includes('elsewhere.example'))).toEqual([]);
    await page.getByText('everything is saved').waitFor();
    await page.reload();
    await page.locator('.ProseMirror').getByRole('heading', { name: 'Tides' }).waitFor();
  });

  it('refuses a picture that lies about its type, with a sentence', async () => {
    const page = await begin('A lying picture');
    await paste(
      page,
      `<p>See</p><img src="data:image/png;base64,${Buffer.from('<svg onload=alert(1)>').toString('base64')}">`,
    );
    await page
      .getByText('not a picture that a page can show')
      .or(page.getByText('stayed behind'))
      .first()
      .waitFor();
    expect(await page.locator('.ProseMirror img:not(.ProseMirror-separator)').count()).toBe(0);
  });

  it('keeps a pasted text on the one line of a short answer', async () => {
    const { page } = await stage.enter('noor.bastrop');
    await page.goto('/work');
    await page.getByRole('link', { name: 'Chart symbols' }).click();
    const answer = page.locator('.answer-short');
    await answer.click();
    await page.keyboard.press('End');
    // What was typed is seen once the editor knows where the cursor is.
    await page.keyboard.type(' so');
    await page.getByText(/ so$/).waitFor();
    await paste(page, '<p>fine</p><p>sand</p>', '(fine\nsand)');
    await page.getByText('so(fine sand)').waitFor();
  });
});

describe('the page editor', () => {
  it('has headings, lists, tables, links, formulas and undo', async () => {
    const page = await begin('Every tool');
    const text = page.locator('.ProseMirror');
    await page.keyboard.type('Range');
    await page.getByRole('button', { name: 'Heading 2' }).click();
    await text.getByRole('heading', { name: 'Range' }).waitFor();
    await page.keyboard.press('Enter');
    await page.keyboard.type('- first');
    await text.getByRole('listitem').filter({ hasText: 'first' }).waitFor();
    await page.keyboard.press('Enter');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Formula' }).click();
    await page.getByLabel(/In TeX/).fill('\\frac{r}{12}');
    await page.getByRole('button', { name: 'Insert' }).click();
    await text.locator('.katex').first().waitFor();
    await page.getByRole('button', { name: 'Link' }).click();
    await page.getByLabel('Where it leads').fill('javascript:alert(1)');
    await page.getByRole('button', { name: 'Insert' }).click();
    await page.getByText('A link begins with https://').waitFor();
    await page.getByLabel('Where it leads').fill('harbour.example');
    await page.getByRole('button', { name: 'Insert' }).click();
    await text.getByRole('link', { name: 'https://harbour.example' }).waitFor();
    await page.getByRole('button', { name: 'Table', exact: true }).click();
    await text.locator('table').waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await text.locator('table').waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'Redo' }).click();
    await text.locator('table').waitFor();
  });

  it('is taken out again when it is more than a page takes; what was typed before and after is saved', async () => {
    const page = await begin('A long table');
    await page.getByRole('textbox', { name: /^A long table/ }).click();
    await page.keyboard.type('Before. ');
    const rows = Array.from({ length: 13_000 }, (_, n) => `<tr><td>row ${n}</td></tr>`).join('');
    await paste(page, `<table>${rows}</table>`);
    await page
      .getByText(/^A page takes up to/)
      .first()
      .waitFor();
    const text = page.locator('.ProseMirror');
    await text.locator('td').first().waitFor({ state: 'detached' });
    await page.keyboard.press('ControlOrMeta+End');
    await page.keyboard.type('After.');
    await page.getByText('everything is saved').waitFor();
    // It is there to be taken elsewhere, as long as its writer wants it.
    const kept = page.getByRole('region', { name: 'Words set aside' });
    await kept.getByText(/row 0 row 1/).waitFor();
    await page.reload();
    await kept.getByText(/row 0 row 1/).waitFor();
    expect(await text.innerText()).toMatch(/^Before\.\s+After\.\s*$/);
    await kept.getByRole('button', { name: 'Discard' }).click();
    await kept.waitFor({ state: 'detached' });
    // Undo does not bring it back.
    await text.click();
    await page.keyboard.press('ControlOrMeta+z');
    expect(await text.locator('td').count()).toBe(0);
  });

  it.each([
    ['an original', (page: Page) => page.getByRole('textbox', { name: /^A long way/ })],
    ['a copy', (page: Page) => page.locator('.answer-writing').first()],
  ] as const)('is all that stays behind of a tab that was closed, in %s', async (what, place) => {
    const { page, context } = await (what === 'an original'
      ? { page: await begin('A long way'), context: null }
      : stage.enter('wren.yardley'));
    if (context) await page.getByRole('link', { name: 'Harbour sketch' }).click();
    const all = context ?? page.context();
    await place(page).click();
    await page.keyboard.type('Online. ');
    await page.getByText('everything is saved').waitFor();
    await all.setOffline(true);
    await page.keyboard.type('Before. ');
    await paste(page, '', 'wide\n'.repeat(7_000));
    await page.keyboard.type(' After.');
    await page.getByText('your words are kept in this browser').first().waitFor();
    await place(page).getByText('After.').waitFor();
    await keptHere(page);
    const address = page.url();
    await page.close({ runBeforeUnload: false });
    await all.setOffline(false);
    const again = await all.newPage();
    await again.goto(address);
    const kept = again.getByRole('region', { name: 'Words set aside' });
    await kept.getByText(/wide/).waitFor();
    await place(again).getByText('After.').waitFor();
    expect(await place(again).innerText()).toMatch(/^Online\. Before\.\s+After\.\s*$/);
    await kept.getByRole('button', { name: 'Discard' }).click();
    await kept.waitFor({ state: 'detached' });
  });
});
