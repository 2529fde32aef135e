import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { chromium, expect, test, type Page } from '@playwright/test';
import type { PortionView, ProgrammeView, RenditionPage, RenditionView } from '../../src/contract/views.ts';
import { drawMaster } from '../support/footage.ts';
import { makeFolders, startServer, type TestServer } from '../support/server.ts';
import { expectAccessible } from './accessible.ts';

const folders = makeFolders();
const QUICK = { video: { codec: 'h264', rate: { mode: 'quality', value: 34 }, effort: 'fast' }, audio: null };
let server: TestServer;
let sky: ProgrammeView;
let rendition: RenditionView;

test.describe.configure({ mode: 'serial' });

test.beforeAll(async () => {
  mkdirSync(folders.media, { recursive: true });
  drawMaster(path.join(folders.media, 'Sky.mov'), { seconds: 6, size: '640x360', grain: 12 });
  drawMaster(path.join(folders.media, 'River.mov'), { seconds: 2 });
  drawMaster(path.join(folders.media, 'Wood.mov'), { seconds: 2, extra: ['-metadata', 'comment=another'] });
  server = await startServer(folders, { LINSTOCK_MEDIA: '', LINSTOCK_OUTPUT: '', HOME: folders.root });
  await server.call('PATCH', 'system', { mediaFolders: [folders.media], outputFolder: folders.output });
  sky = await server.takeIn(path.join(folders.media, 'Sky.mov'));
  for (const name of ['River.mov', 'Wood.mov']) await server.takeIn(path.join(folders.media, name));
  const { body } = await server.call<RenditionView>('POST', 'renditions', { programmeId: sky.id, recipe: QUICK });
  rendition = await server.waitFor(body.id);
});
test.afterAll(() => server.end('SIGTERM'));

const open = async (page: Page) => {
  await page.goto(`${server.address}/programmes/${sky.id}`);
  await expect(page.getByTestId('player')).toBeVisible();
};
const frame = (page: Page) => page.getByTestId('player').getAttribute('data-frame').then(Number);
const portions = async () => (await server.call<PortionView[]>('GET', `programmes/${sky.id}/portions`)).body;

test('a page of another name reads nothing, though the name leads to this machine', async () => {
  const port = new URL(server.address).port;
  const browser = await chromium.launch({
    executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--host-resolver-rules=MAP evil.example 127.0.0.1', '--disable-background-networking'],
  });
  try {
    const page = await browser.newPage();
    const answer = await page.goto(`http://evil.example:${port}/api/programmes`);
    expect(answer?.status()).toBe(403);
    expect(await answer?.text()).not.toContain('Sky.mov');
    expect((await page.goto(`http://evil.example:${port}/`))?.status()).toBe(403);
    // A page that is really another site's cannot ask by the machine's own name either.
    await page.goto('data:text/html,<h1>elsewhere</h1>');
    const read = await page.evaluate(
      (address) =>
        fetch(`${address}/api/programmes`).then(
          (one) => one.text(),
          () => 'refused',
        ),
      server.address,
    );
    expect(read).toBe('refused');
  } finally {
    await browser.close();
  }
});

test('keys work wherever the focus is, unless text is typed', async ({ page }) => {
  await open(page);
  await page.getByRole('button', { name: 'In here' }).click();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => frame(page)).toBe(2);
  await page.keyboard.press('i');
  await expect.poll(async () => (await portions())[0]?.inFrame).toBe(2);
  await page.getByText('Fine control').click();
  await page.getByRole('radio', { name: /Thorough/ }).click();
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => frame(page)).toBe(3);
  await page.getByLabel('Name of the portion').click();
  await page.keyboard.press('End');
  await page.keyboard.type('io');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await portions())[0]).toMatchObject({ name: 'Portion 1io', inFrame: 2 });
  await page.getByRole('button', { name: 'Play (Space)' }).click();
  await page.keyboard.press('Space');
  await expect(page.getByRole('button', { name: 'Play (Space)' })).toBeVisible();
});

test('a portion’s handle moves only when it is dragged, and one drag is one undo', async ({ page }) => {
  await server.call('PUT', `programmes/${sky.id}/portions`, [{ inFrame: 30, outFrame: 90, name: 'Middle' }]);
  await open(page);
  const handle = page.getByRole('slider', { name: 'Middle, out point' });
  const box = (await handle.boundingBox())!;
  const lane = (await page.getByTestId('portion-lane').boundingBox())!;
  const kept: unknown[] = [];
  page.on('request', (request) => {
    if (request.method() === 'PUT' && request.url().endsWith('/portions')) kept.push(request.postDataJSON());
  });
  await page.mouse.click(box.x + 2, box.y + 8);
  await page.mouse.move(box.x + 2, box.y + 8);
  await page.mouse.down();
  await page.mouse.move(lane.x + lane.width * 0.8, box.y + 8, { steps: 12 });
  await page.mouse.up();
  await expect.poll(async () => (await portions())[0]?.outFrame).toBeGreaterThan(110);
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await portions())[0]?.outFrame).toBe(90);
  expect(kept).toHaveLength(2);
});

test('what was changed last is kept, also where the page is left at once', async ({ page }) => {
  await server.call('PUT', `programmes/${sky.id}/portions`, [{ inFrame: 30, outFrame: 90, name: 'Middle' }]);
  await open(page);
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => frame(page)).toBe(1);
  await page.keyboard.press('i');
  // Faster than a hand is: within the moment that changes are gathered in.
  await page.getByRole('link', { name: 'Queue' }).dispatchEvent('click');
  await expect(page.getByRole('heading', { level: 1, name: 'Queue' })).toBeVisible();
  await expect.poll(async () => (await portions())[0]?.inFrame).toBe(1);
  await open(page);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect.poll(() => frame(page)).toBe(2);
  await page.keyboard.press('i');
  await page.evaluate(() => window.location.assign('/settings'));
  await expect(page.getByRole('heading', { level: 1, name: 'Settings' })).toBeVisible();
  await expect.poll(async () => (await portions())[0]?.inFrame).toBe(2);
});

test('in after out moves the portion along and says so; the short way of timecode is read', async ({ page }) => {
  await open(page);
  const field = page.getByLabel('In point of Middle');
  await field.fill('410');
  // It is said for a few seconds only.
  const isSaid = expect(page.getByText(/In was set after out/)).toBeVisible();
  await page.keyboard.press('Enter');
  await isSaid;
  await expect.poll(async () => (await portions())[0]).toMatchObject({ inFrame: 110, outFrame: 149 });
  await page.getByLabel('Timecode', { exact: true }).fill('210');
  await page.keyboard.press('Enter');
  await expect.poll(() => frame(page)).toBe(60);
  await page.getByLabel('Timecode', { exact: true }).fill('+5');
  await page.keyboard.press('Enter');
  await expect.poll(() => frame(page)).toBe(65);
  await page.getByLabel('Timecode', { exact: true }).fill('99:99');
  await expect(page.getByText(/That is no position here/)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect.poll(() => frame(page)).toBe(65);
});

test('choices are walked with arrows, taken with Enter and left with Escape; so are fields', async ({ page }) => {
  await open(page);
  const line = page.getByTestId('order-line');
  const token = line.getByRole('button', { name: /What is held to/ });
  const isOpen = () => expect(page.getByRole('radio', { name: /^Constant quality/ })).toBeFocused();
  await token.click();
  await isOpen();
  // The focus moves a moment after the key; a second press before that would start from the first choice again.
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('radio', { name: /^An average rate/ })).toBeFocused();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('radio', { name: /A size to fill/ })).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(line).toContainText('at constant quality');
  // HEVC has a usual quality of its own.
  await line.getByRole('button', { name: /Codec of the picture/ }).click();
  await page.getByRole('radio', { name: /^HEVC/ }).click();
  await expect(line).toContainText('in HEVC, at 640 × 360 and the source’s 25 fps, at constant quality 24');
  await page.keyboard.press('Control+z');
  await expect(line).toContainText('at constant quality 23');
  await token.click();
  await isOpen();
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('radio', { name: /^An average rate/ })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(line).toContainText('averaging 3,000 kb/s');
  await line.getByRole('button', { name: /Average rate of the picture/ }).click();
  const field = page.getByLabel('Rate', { exact: true });
  await field.fill('4M');
  await expect(line).toContainText('4,000 kb/s');
  await field.press('Escape');
  await expect(line).toContainText('3,000 kb/s');
  await line.getByRole('button', { name: /Average rate of the picture/ }).click();
  await field.fill('2 Mb/s');
  await field.press('Enter');
  await expect(line).toContainText('2,000 kb/s');
  await page.keyboard.press('Control+z');
  await expect(line).toContainText('3,000 kb/s');
  await expectAccessible(page);
});

test('frame rate and loudness are changed in the sentence, and undone', async ({ page }) => {
  await open(page);
  const line = page.getByTestId('order-line');
  await line.getByRole('button', { name: /Frame rate/ }).click();
  await page.getByRole('radio', { name: /^Half of it/ }).click();
  await expect(line).toContainText('and 12.5 fps');
  await expect(page.getByTestId('standing-order')).toContainText('half the source’s frames');
  await line.getByRole('button', { name: /Frame rate/ }).click();
  const rate = page.getByLabel('Or so many', { exact: true });
  await rate.fill('1000');
  await expect(page.getByText('Type a rate from 1 to 240')).toBeVisible();
  await rate.fill('29.97');
  await rate.press('Enter');
  await expect(line).toContainText('and 29.97 fps');
  await expect(page.getByText(/even motion stutters/)).toBeVisible();
  await page.getByRole('button', { name: /Keep the source’s frames/ }).click();
  await expect(line).toContainText('and the source’s 25 fps');
  await page.getByText('Fine control').click();
  await page.getByRole('radio', { name: /^−16 LUFS/ }).click();
  await expect(line).toContainText('levelled to −16 LUFS');
  await line.getByRole('button', { name: /^Loudness/ }).click();
  const loudness = page.getByRole('dialog').getByLabel('Loudness', { exact: true });
  await loudness.fill('-18.5');
  await loudness.press('Enter');
  await page.keyboard.press('Escape');
  await expect(line).toContainText('levelled to −18.5 LUFS');
  await expectAccessible(page);
  await page.keyboard.press('Control+z');
  await expect(line).toContainText('levelled to −16 LUFS');
  await page.keyboard.press('Control+z');
  await expect(line).not.toContainText('levelled');
});

test('the standing order stays in sight, marks what changed, and queues once a press', async ({ page }) => {
  await server.call('PUT', `programmes/${sky.id}/portions`, [
    { inFrame: 0, outFrame: 24, name: 'First' },
    { inFrame: 50, outFrame: 99, name: 'Second' },
  ]);
  await open(page);
  const standing = page.getByTestId('standing-order');
  await expect(standing).toBeInViewport({ ratio: 1 });
  await expect(page.getByTestId('portion-expected')).toHaveCount(2);
  await expect(page.getByTestId('sum-expected')).toContainText(/Together ≈/);
  await page
    .getByTestId('order-line')
    .getByRole('button', { name: /^Sound: / })
    .click();
  await page.getByRole('radio', { name: 'No sound' }).click();
  await expect(standing).toContainText('no sound');
  await expect(standing.locator('.underline')).not.toHaveCount(0);
  const before = (await server.call<RenditionPage>('GET', 'renditions')).body.rows.length;
  // A slow server must not be ordered from twice.
  let goOn = () => {};
  const held = new Promise<void>((resolve) => (goOn = resolve));
  await page.route('**/api/renditions', async (route) => {
    if (route.request().method() === 'POST') await held;
    await route.continue();
  });
  await page.evaluate(() => {
    for (let press = 0; press < 5; press += 1) {
      document.dispatchEvent(
        new KeyboardEvent('keydown', { key: 'q', code: 'KeyQ', bubbles: true, repeat: press > 2 }),
      );
    }
  });
  await expect(page.getByText('Queueing …').first()).toBeVisible();
  goOn();
  await expect(page.getByText('Queued: 2 renditions')).toBeVisible();
  const list = (await server.call<RenditionPage>('GET', 'renditions')).body.rows;
  expect(list.length - before).toBe(2);
  expect(list.slice(-2).map(({ portionName }) => portionName)).toEqual(['First', 'Second']);
  for (const { id } of list.slice(-2)) await server.waitFor(id);
});

test('the same order waiting already is said before it is queued again', async ({ page }) => {
  const slow = { video: { codec: 'hevc', effort: 'thorough', rate: { mode: 'quality', value: 12 } }, audio: null };
  const { body } = await server.call<RenditionView>('POST', 'renditions', { programmeId: sky.id, recipe: slow });
  await server.call('PUT', `programmes/${sky.id}/portions`, [{ inFrame: 0, outFrame: 9, name: 'Short' }]);
  await open(page);
  await page.keyboard.press('q');
  await expect(page.getByText(/^Queued: Sky, Short/)).toBeVisible();
  await page.keyboard.press('q');
  await expect(page.getByText(/The same order is waiting already: Sky, Short/)).toBeVisible();
  const waiting = (await server.call<RenditionPage>('GET', 'renditions')).body.rows.filter(
    ({ state }) => state === 'queued',
  );
  expect(waiting).toHaveLength(1);
  for (const { id } of [body, ...waiting]) await server.call('DELETE', `renditions/${id}`);
});

test('two pages agree on an order', async ({ page, context }) => {
  await open(page);
  const other = await context.newPage();
  await open(other);
  await page
    .getByTestId('order-line')
    .getByRole('button', { name: /Frame size/ })
    .click();
  await page.getByLabel('Or fit inside').fill('320 × 180');
  await page.keyboard.press('Enter');
  await expect(other.getByTestId('order-line')).toContainText('320 × 180');
  await page.getByRole('button', { name: 'Take the whole programme' }).click();
  await expect(other.getByTestId('portion-row')).toHaveCount(0);
});

test('what is forgotten stays in its place and comes back by key', async ({ page }) => {
  await page.goto(server.address);
  const rows = page.getByRole('row');
  const button = page.getByRole('button', { name: 'Forget River.mov' });
  const box = (await button.boundingBox())!;
  // A second press at the same place forgets no second one.
  await page.mouse.dblclick(box.x + 10, box.y + 8);
  await expect(page.getByTestId('forgotten-row')).toHaveCount(1);
  await expect(page.getByRole('link', { name: 'Wood.mov' })).toBeVisible();
  await expect(rows).toHaveCount(4);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('link', { name: 'River.mov' })).toBeVisible();
  await expect.poll(async () => (await server.programmes()).length).toBe(3);
  await page.getByRole('button', { name: 'Forget Wood.mov' }).click();
  await expect(page.getByText('Wood.mov is forgotten; the file stays')).toBeVisible();
  await page.goto(`${server.address}/settings`);
  await expect(page.getByTestId('forgotten')).toContainText('Wood.mov');
  await page.getByRole('button', { name: 'Take them away for good …' }).click();
  await expect(page.getByRole('alertdialog')).toContainText('Take 1 programme away for good?');
  await page.getByRole('button', { name: 'Keep them' }).click();
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await expect(page.getByTestId('forgotten')).toContainText('None.');
});

test('folders are added in Settings and used at once', async ({ page }) => {
  mkdirSync(path.join(folders.root, 'more'));
  drawMaster(path.join(folders.root, 'more', 'Later.mov'), { seconds: 1 });
  await page.goto(`${server.address}/settings`);
  const field = page.getByLabel('Another media folder');
  await field.fill(path.join(folders.root, 'nowhere'));
  await page.getByRole('button', { name: 'Add this folder' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'is not there' })).toBeVisible();
  await field.fill(path.join(folders.root, 'more'));
  await page.getByRole('button', { name: 'Add this folder' }).click();
  await expect(page.getByRole('button', { name: /^Take .*more out$/ })).toBeVisible();
  await expectAccessible(page);
  expect((await server.takeIn(path.join(folders.root, 'more', 'Later.mov'))).name).toBe('Later.mov');
});

test('the desk compares at every zoom, and leads back to where one was', async ({ page }) => {
  await open(page);
  await page.getByRole('link', { name: `Look at ${rendition.name}` }).click();
  const [master, result] = ['master', 'result'].map((which) => page.locator(`img[data-which=${which}]`));
  await expect(result!).toBeVisible();
  await page.keyboard.press('b');
  for (const [key, scale] of [
    ['1', 1],
    ['2', 2],
    ['4', 4],
    ['8', 8],
  ] as const) {
    await page.keyboard.press(key);
    await expect.poll(async () => (await result!.boundingBox())?.width).toBe(640 * scale);
    const views = await Promise.all(
      ['master', 'result'].map((which) => page.getByTestId(`view-${which}`).boundingBox()),
    );
    const pictures = await Promise.all([master!.boundingBox(), result!.boundingBox()]);
    // Both views show the same place: their pictures lie alike in them.
    expect(pictures[0]!.x - views[0]!.x).toBeCloseTo(pictures[1]!.x - views[1]!.x, 3);
    expect(pictures[0]!.y - views[0]!.y).toBeCloseTo(pictures[1]!.y - views[1]!.y, 3);
    await expect(page.getByText('Master', { exact: true })).toBeInViewport();
    await expect(page.getByText('Result', { exact: true })).toBeInViewport();
  }
  const view = (await page.getByTestId('view-result').boundingBox())!;
  const before = (await master!.boundingBox())!;
  await page.mouse.move(view.x + 200, view.y + 200);
  await page.mouse.down();
  await page.mouse.move(view.x + 120, view.y + 170, { steps: 8 });
  await page.mouse.up();
  const after = (await master!.boundingBox())!;
  expect([after.x - before.x, after.y - before.y]).toEqual([-80, -30]);
  await page.keyboard.press('s');
  const divider = (await page.getByRole('slider', { name: /Divider/ }).boundingBox())!;
  expect(divider.x).toBeGreaterThan(0);
  expect(divider.x).toBeLessThan(1280);
  await page.mouse.move(900, 300);
  await page.mouse.wheel(0, 100);
  await expect.poll(async () => (await result!.boundingBox())?.width).toBe(640 * 4);
  await page.getByRole('link', { name: /← Sky.mov/ }).click();
  await expect(page).toHaveURL(new RegExp(`/programmes/${sky.id}$`));
});

test('nothing is cut off at 640 pixels, and an address that is none says so', async ({ page }) => {
  await page.setViewportSize({ width: 640, height: 400 });
  const places = [
    ['', page.getByRole('link', { name: 'Sky.mov' })],
    [`programmes/${sky.id}`, page.getByTestId('portion-lane')],
    ['queue', page.getByRole('heading', { name: 'Ended' })],
    ['settings', page.getByRole('heading', { name: 'Encoders' })],
    [`desk/${rendition.id}`, page.locator('img[data-which=result]')],
    ['no/such/place', page.getByRole('heading', { level: 1 })],
  ] as const;
  for (const [where, content] of places) {
    await page.goto(`${server.address}/${where}`);
    await content.first().waitFor();
    await page.evaluate(() => document.fonts.ready.then(() => undefined));
    expect(await page.evaluate(() => document.documentElement.scrollWidth), where).toBeLessThanOrEqual(640);
  }
  await expect(page.getByText('There is nothing at this address')).toBeVisible();
  await expect(page.getByRole('link', { name: 'All programmes' })).toBeVisible();
});
