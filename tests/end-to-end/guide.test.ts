import type { GuideView } from '@kindred-baton/contracts/turns/turn';
import ExcelJS from 'exceljs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { OwnServer } from '../support/own-server.ts';
import { openOwnServer, toFile } from '../support/own-server.ts';

/** A picture with a line of checks, so that a blur can be told from what was there. */
async function makePicture(page: OwnServer['visitor']['page']): Promise<Buffer> {
  const address = await page.evaluate(() => {
    const canvas = Object.assign(document.createElement('canvas'), { width: 320, height: 160 });
    const pen = canvas.getContext('2d');
    for (let x = 0; x < 320; x += 2) for (let y = 0; y < 160; y += 2) pen?.fillRect(x + (y % 4 === 0 ? 0 : 1), y, 1, 2);
    return canvas.toDataURL('image/png');
  });
  return Buffer.from(address.split(',')[1] ?? '', 'base64');
}

describe('the guide in full', () => {
  let own: OwnServer;
  let turnId: string;
  beforeAll(async () => {
    own = await openOwnServer('Karim Bol');
    const { visitor } = own;
    await visitor.go('/brindlemere/turns');
    await visitor.page.locator('section[aria-label="With you"] li button').click();
    await visitor.find('Begin', 'button');
    turnId = new URL(visitor.page.url()).searchParams.get('turn') ?? '';
  });
  afterAll(() => own.close());
  const guide = () => own.visitor.json<GuideView>(`/api/brindlemere/turns/${turnId}`);

  it('draws on a picture: what is blurred is gone from what is kept, and the picture before is gone too', async () => {
    const { visitor } = own;
    await visitor.press('Begin');
    await visitor.sees(/Step 1 of \d/);
    const input = await visitor.page.$('input[type=file][aria-label="Choose pictures"]');
    await input?.uploadFile(toFile('screen.png', await makePicture(visitor.page)));
    await visitor.page.waitForSelector('img[alt="screen.png"]');
    const [before] = (await guide()).attempts[0]?.evidence ?? [];
    await visitor.press('Draw on screen.png');
    await visitor.press('Blur U');
    const box = await (await visitor.page.waitForSelector('[data-marks] canvas'))?.boundingBox();
    if (!box) throw new Error('There is nothing to draw on.');
    const { mouse } = visitor.page;
    await mouse.move(box.x + 20, box.y + 20);
    await mouse.down();
    await mouse.move(box.x + 140, box.y + 100, { steps: 4 });
    await mouse.up();
    await visitor.press('Arrow A');
    await mouse.move(box.x + 200, box.y + 120);
    await mouse.down();
    await mouse.move(box.x + 260, box.y + 60, { steps: 4 });
    await mouse.up();
    await visitor.press('Keep this picture');
    await visitor.page.waitForFunction(() => !document.querySelector('[role=dialog]'));
    const kept = (await guide()).attempts[0]?.evidence ?? [];
    expect(kept).toHaveLength(1);
    expect(kept[0]?.id).not.toBe(before?.id);
    const [colours, status] = await visitor.page.evaluate(
      async (now, then) => {
        const image = await createImageBitmap(await (await fetch(now)).blob());
        const canvas = Object.assign(document.createElement('canvas'), { width: image.width, height: image.height });
        const pen = canvas.getContext('2d');
        pen?.drawImage(image, 0, 0);
        const { data } = pen?.getImageData(40, 40, 60, 40) ?? { data: [] as number[] };
        // The cache may still have the picture that was taken back; the server does not.
        return [new Set([...data].filter((_, index) => index % 4 === 0)).size, (await fetch(then, { cache: 'reload' })).status] as const;
      },
      `/api/brindlemere/evidence/${kept[0]?.id}`,
      `/api/brindlemere/evidence/${before?.id}`,
    );
    expect(colours).toBeLessThanOrEqual(4);
    expect(status).toBe(404);
  });

  it('refuses what is no picture in a sentence, and keeps what was typed', async () => {
    const { visitor } = own;
    await visitor.type('What you saw (optional)', 'kept all the same');
    const input = await visitor.page.$('input[type=file][aria-label="Choose pictures"]');
    await input?.uploadFile(toFile('drawing.png', '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'));
    await visitor.sees('drawing.png is not a kind that is kept.');
    expect(await visitor.page.$eval('textarea', (area) => (area as HTMLTextAreaElement).value)).toBe('kept all the same');
    visitor.errors.splice(0);
  });

  it('stands in a window of its own, with its keys', async () => {
    const { visitor } = own;
    const opened = new Promise<boolean>((resolve) => {
      own.visitor.page.browser().once('targetcreated', () => resolve(true));
      setTimeout(() => resolve(false), 8_000);
    });
    await visitor.press('Open in a window of its own');
    expect(await opened).toBe(true);
    const isInPage = await visitor.page.evaluate(() => document.body.innerText.includes('The guide is in its own window'));
    const floating = await visitor.page.evaluate(() => {
      const pip = (window as unknown as { documentPictureInPicture?: { window: Window | null } }).documentPictureInPicture?.window;
      pip?.dispatchEvent(new KeyboardEvent('keydown', { key: '1' }));
      return pip ? pip.document.body.innerText.length > 0 : null;
    });
    // It floats, and its place in the page says so; or this browser opens a plain window, and the page keeps the guide.
    expect([isInPage, floating]).toEqual(floating === null ? [false, null] : [true, true]);
    if (floating) {
      await visitor.page.waitForFunction(() =>
        /Step 2 of/.test(
          (window as unknown as { documentPictureInPicture: { window: Window } }).documentPictureInPicture.window.document.body.innerText,
        ),
      );
      await visitor.page.evaluate(() =>
        (window as unknown as { documentPictureInPicture: { window: Window } }).documentPictureInPicture.window.close(),
      );
    } else {
      await visitor.page.bringToFront();
      await visitor.page.keyboard.press('1');
    }
    await visitor.sees(/Step 2 of/);
  });

  it('takes a turn to paper and back', async () => {
    const { visitor } = own;
    const home = await visitor.json<{ withYou: { id: string; state: string }[] }>('/api/brindlemere/turns');
    const other = home.withYou.find(({ state }) => state === 'ready')?.id ?? '';
    await visitor.go(`/brindlemere/turns/${other}`);
    await visitor.page.locator('details summary').click();
    const bytes = await visitor.page.evaluate(
      async (to) => [...new Uint8Array(await (await fetch(to)).arrayBuffer())],
      `/api/brindlemere/turns/${other}/sheet?format=xlsx`,
    );
    const fill = async (outcome: string, changed = '') => {
      const workbook = new ExcelJS.Workbook();
      await workbook.xlsx.load(new Uint8Array(bytes).buffer);
      const sheet = workbook.worksheets[0];
      if (changed !== '' && sheet) sheet.getCell('B9').value = changed;
      sheet?.eachRow((row, number) => number > 8 && (row.getCell(4).value = number === 9 ? outcome : 'left out'));
      if (sheet) sheet.getCell('E9').value = 'The screen stays grey';
      return toFile('filled.xlsx', Buffer.from((await workbook.xlsx.writeBuffer()) as ArrayBuffer));
    };
    const bring = async (file: string) => (await visitor.page.$('input[type=file][aria-label="The filled sheet"]'))?.uploadFile(file);
    await bring(await fill('worked', 'Do something else'));
    await visitor.sees('Step 1 was changed in the sheet.');
    await bring(await fill('did not'));
    await visitor.sees('The sheet is kept as an attempt: failed.');
    await visitor.sees('on paper');
    const report = await visitor.page.evaluate(
      async (to) => (await (await fetch(to)).text()).slice(0, 5),
      `/api/brindlemere/turns/${other}/sheet?format=report`,
    );
    expect(report).toBe('%PDF-');
    visitor.errors.splice(0);
  });

  it('has its whole run as a page to print and as PDF, with its pictures', async () => {
    const { visitor } = own;
    const { turn, run } = await guide();
    const to = new URL(`/api/brindlemere/runs/${run}/report`, visitor.page.url()).href;
    const pdf = await visitor.page.evaluate(
      async (from) => {
        const answer = await fetch(from);
        return [answer.headers.get('content-type'), new TextDecoder('latin1').decode(await answer.arrayBuffer())];
      },
      to.replace('html', 'pdf'),
    );
    expect(pdf[0]).toBe('application/pdf');
    expect(pdf[1]).toMatch(/^%PDF-/);
    expect(pdf[1]).toMatch(/\/Subtype\s*\/Image[^>]*\/Width 320\b/);
    await visitor.page.goto(`${to}?format=html`);
    const { text, pictures } = await visitor.page.evaluate(() => ({
      text: document.body.innerText,
      pictures: [...document.images].map(({ complete, naturalWidth }) => [complete, naturalWidth]),
    }));
    expect(pictures).toContainEqual([true, 320]);
    await visitor.go('/brindlemere/turns');
    for (const part of [turn.scenario.code, turn.cycle.name, `${turn.leg}. ${turn.title}`, 'The baton']) expect(text).toContain(part);
  });

  it('hands a turn over to somebody of the lane, with a word', async () => {
    const { visitor } = own;
    const home = await visitor.json<{ onItsWay: { id: string }[] }>('/api/brindlemere/turns');
    const id = home.onItsWay[0]?.id ?? '';
    await visitor.go(`/brindlemere/turns/${id}`);
    await visitor.press('Hand it over');
    await visitor.type('A word with it (optional)', 'You know this tariff.');
    await visitor.page.locator('[role=dialog] button[type=submit]').click();
    await visitor.sees('Handed over.');
    expect((await visitor.json<GuideView>(`/api/brindlemere/turns/${id}`)).turn.assignee).toBe('Una Petrel');
  });

  it('leaves no error in the browser', () => expect(own.visitor.errors).toEqual([]));
});
