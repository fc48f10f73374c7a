import { readFileSync } from 'node:fs';
import { randomBytes } from 'node:crypto';
import { PDFDocument, StandardFonts } from 'pdf-lib';
import type { Page } from 'playwright-core';
import type { AddressInfo } from 'node:net';
import { afterAll, describe, expect, it } from 'vitest';
import { documentServer } from '../../standins/documents/documents';
import { useStage } from '../support/stage';

const documents = documentServer();
const at = new Promise<string>((resolve) =>
  documents.listen(0, '127.0.0.1', () =>
    resolve(`http://127.0.0.1:${(documents.address() as AddressInfo).port}`),
  ),
);
afterAll(() => {
  documents.close();
  documents.closeAllConnections();
});
const stage = useStage(async () => ({ DOCUMENTS_URL: await at }));
const button = (page: Page, name: string | RegExp) => page.getByRole('button', { name });
const attach = (page: Page, files: { name: string; mimeType: string; buffer: Buffer }[]) =>
  page.locator('section[aria-label="What is attached"] input[type=file]').setInputFiles(files);
const list = (page: Page) => page.getByRole('list', { name: 'Attached' });

async function openSketch(page: Page) {
  await page.getByRole('link', { name: 'Harbour sketch' }).click();
  await button(page, 'Attach a file or a link …').click();
  await page.getByRole('heading', { name: 'Attached' }).waitFor();
}
/** One red dot. */
const PNG = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8DwHwAFBQIAX8jx0gAAAABJRU5ErkJggg==',
  'base64',
);

/** Nothing to be heard for so many seconds: WAVE, PCM of 8 bits and 8,000 samples a second (from memory). */
function silence(seconds: number): Buffer {
  const samples = Buffer.alloc(seconds * 8000, 128);
  const head = Buffer.alloc(44);
  head.write('RIFF', 0);
  head.writeUInt32LE(36 + samples.length, 4);
  head.write('WAVEfmt ', 8);
  head.writeUInt32LE(16, 16);
  head.writeUInt16LE(1, 20);
  head.writeUInt16LE(1, 22);
  head.writeUInt32LE(8000, 24);
  head.writeUInt32LE(8000, 28);
  head.writeUInt16LE(1, 32);
  head.writeUInt16LE(8, 34);
  head.write('data', 36);
  head.writeUInt32LE(samples.length, 40);
  return Buffer.concat([head, samples]);
}

describe('work made elsewhere', () => {
  it('is attached, said not to be handed in, seen by the teacher, and handed in', async () => {
    const { page: student } = await stage.enter('june.hesper');
    await openSketch(student);
    await attach(student, [
      { name: 'Quay “at dusk”.png', mimeType: 'image/png', buffer: PNG },
      { name: 'what.xyz', mimeType: 'image/png', buffer: Buffer.from([0x80, 0x81, 0x82, 0xfa]) },
    ]);
    await list(student).getByText('Quay “at dusk”.png').first().waitFor();
    await list(student).getByText('cannot be read here').waitFor();
    await student.getByText('Attached, and not handed in yet.').waitFor();
    await button(student, 'Remove what.xyz').click();
    await student.getByText('“what.xyz” is removed.').waitFor();
    await button(student, 'Undo removing what.xyz').click();
    await list(student).getByText('what.xyz').first().waitFor();
    await button(student, 'Remove what.xyz').click();
    // The teacher sees it, before it is handed in.
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await button(page, /^Hesper, June, Harbour sketch: (not handed in|overdue)/).click();
    const peek = page.getByRole('complementary', { name: /^Peek: June Hesper/ });
    await button(page, 'Show Quay “at dusk”.png').click();
    await expect
      .poll(() =>
        peek.getByRole('img', { name: 'Quay “at dusk”.png' }).evaluate((image) => {
          return image instanceof HTMLImageElement && image.complete ? image.naturalWidth : 0;
        }),
      )
      .toBe(1);
    await button(student, 'Hand in').click();
    await student.getByText('With it goes Quay “at dusk”.png.').waitFor();
    await student.getByRole('dialog').getByRole('button', { name: 'Hand in' }).click();
    await student
      .getByText(/^handed in/)
      .first()
      .waitFor();
    await expect.poll(() => student.locator('input[type=file]').count()).toBe(0);
    await button(page, /^Hesper, June, Harbour sketch: handed in/).waitFor();
    await peek.getByRole('link', { name: 'Open copy' }).click();
    await list(page).getByText('Quay “at dusk”.png').first().waitFor();
  });

  it('is commented at a point of a picture, at words of a PDF, at a moment of sound; and its student finds the place', async () => {
    const { page: student } = await stage.enter('noor.bastrop');
    await student.getByRole('link', { name: 'Harbour sketch' }).click();
    await button(student, 'Take back').click();
    await button(student, 'Attach a file or a link …').click();
    const pdf = await PDFDocument.create();
    const font = await pdf.embedFont(StandardFonts.Helvetica);
    pdf.addPage([400, 600]).drawText('The end light leads in', { x: 40, y: 500, size: 24, font });
    pdf.addPage([400, 600]).drawText('Second page', { x: 40, y: 500, size: 24, font });
    await attach(student, [
      { name: 'dot.png', mimeType: 'image/png', buffer: PNG },
      { name: 'way in.pdf', mimeType: 'application/pdf', buffer: Buffer.from(await pdf.save()) },
      { name: 'fog horn.wav', mimeType: 'audio/wav', buffer: silence(3) },
    ]);
    await list(student).getByText('fog horn.wav').first().waitFor();
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await button(page, /^Bastrop, Noor, Harbour sketch/).click();
    await page.getByRole('link', { name: 'Open copy' }).click();
    await page.getByRole('complementary', { name: 'Feedback' }).waitFor();
    const comment = async (on: string, says: string) => {
      await page.getByLabel(on).fill(says);
      await button(page, 'Add comment').click();
      await page.getByRole('article').filter({ hasText: says }).waitFor();
    };
    await button(page, 'Show dot.png').click();
    await page.getByRole('img', { name: 'dot.png' }).click();
    await comment('On a point of dot.png', 'What is this dot?');
    await button(page, 'Comment 1: What is this dot?').waitFor();
    await button(page, 'Show way in.pdf').click();
    // Words are selected as with a mouse: from one end of them to the other.
    const words = page.getByText('The end light leads in');
    // It stands still, in sight.
    await words.hover();
    const box = await words.boundingBox();
    if (!box) throw new Error('the words are not shown');
    await page.mouse.move(box.x + 1, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width - 1, box.y + box.height / 2, { steps: 5 });
    await page.mouse.up();
    await comment('On “The end light leads in” · way in.pdf, page 1', 'From where?');
    await button(page, 'Show fog horn.wav').click();
    await page.locator('audio').evaluate((sound: HTMLAudioElement) => (sound.currentTime = 2));
    await button(page, 'Comment at 0:02').click();
    await comment('On fog horn.wav at 0:02', 'Too short.');
    await button(page, 'Comment on dot.png').click();
    await comment('On dot.png', 'All of it is red.');

    // The student sees where.
    const card = (says: string) => student.getByRole('article').filter({ hasText: says });
    await card('From where?')
      .getByRole('button', { name: /^on “The end light leads in”/ })
      .click();
    await button(student, 'Comment 1: From where?').waitFor();
    await card('Too short.').getByRole('button', { name: 'on fog horn.wav at 0:02' }).click();
    await expect
      .poll(() => student.locator('audio').evaluate((one: HTMLAudioElement) => one.currentTime))
      .toBe(2);
    await card('What is this dot?').getByLabel('Reply').fill('A buoy.');
    await card('What is this dot?').getByRole('button', { name: 'Send' }).click();
    await page.getByText('A buoy.').waitFor();
  });

  it('goes on where it was after the network was lost, byte for byte', async () => {
    const { page: student } = await stage.enter('priya.dunmore');
    await openSketch(student);
    const bytes = randomBytes(2_500_000);
    let pieces = 0;
    await student.route('**/uploads/*', async (route) => {
      if (route.request().method() === 'PATCH' && ++pieces > 2)
        await route.abort('internetdisconnected');
      else await route.continue();
    });
    await attach(student, [{ name: 'film.bin', mimeType: 'video/mp4', buffer: bytes }]);
    await student.getByText('waits for the network, and goes on by itself').waitFor();
    expect(await list(student).count()).toBe(0);
    await student.unroute('**/uploads/*');
    await list(student).getByText('film.bin').first().waitFor();
    await list(student).getByText('2.5 MB').waitFor();
    const [download] = await Promise.all([
      student.waitForEvent('download'),
      student.getByRole('link', { name: 'Download film.bin' }).click(),
    ]);
    expect(download.suggestedFilename()).toBe('film.bin');
    expect(readFileSync(await download.path()).equals(bytes)).toBe(true);
  });

  it('is a link that others cannot open, until its student lets them; and a document that is read as a page', async () => {
    const { page: student } = await stage.enter('kaisa.ilves');
    await openSketch(student);
    await attach(student, [
      {
        name: 'quay.md',
        mimeType: 'text/markdown',
        buffer: Buffer.from('# Depths\n\nAt the *steps* it is 1.2 m.'),
      },
    ]);
    await button(student, 'Show quay.md').click();
    await student.getByRole('document', { name: 'quay.md' }).getByText('it is 1.2 m').waitFor();
    const link = student.getByLabel('Attach a link to work made elsewhere');
    await link.fill('my homework');
    await button(student, 'Attach link').click();
    await student.getByText('This is not an address that a browser could open.').waitFor();
    const address = `${await at}/d/my-harbour`;
    await link.fill(address);
    await button(student, 'Attach link').click();
    await list(student).getByText('others cannot open it').waitFor();
    // The teacher finds it among the gaps, and asks.
    const { page } = await stage.enter('tamsin.orrey');
    await page.getByRole('link', { name: '8C Coast & Chart' }).first().click();
    await page.getByText(/^Gaps \d+$/).click();
    const gaps = page.getByRole('region', { name: 'A link that others cannot open' });
    await gaps.getByRole('button', { name: 'Kaisa Ilves', exact: true }).click();
    await button(page, 'Ask to open it').last().click();
    await page.getByText('They were asked.').waitFor();
    await fetch(address, { method: 'POST' });
    await button(student, `Check again ${address}`).click();
    await list(student).getByText('others can open it').waitFor();
    await gaps
      .getByRole('button', { name: 'Kaisa Ilves', exact: true })
      .waitFor({ state: 'detached' });
    await button(student, 'Hand in').click();
    await student.getByRole('dialog').getByRole('button', { name: 'Hand in' }).click();
    await button(student, `Show what was kept ${address}`).click();
    await student
      .getByRole('document', { name: address })
      .getByText('The mole keeps out the north wind')
      .waitFor();
  });
});
