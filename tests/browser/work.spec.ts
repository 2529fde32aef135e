import { mkdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { expect, test, type Locator, type Page } from '@playwright/test';
import { draw, drawMaster } from '../support/footage.ts';
import { makeFolders, startServer, type TestServer } from '../support/server.ts';
import type { RenditionPage, RenditionView } from '../../src/contract/views.ts';
import { expectAccessible } from './accessible.ts';

const folders = makeFolders();
let server: TestServer;

test.describe.configure({ mode: 'serial' });

test.beforeAll(async () => {
  mkdirSync(path.join(folders.media, 'autumn'), { recursive: true });
  drawMaster(path.join(folders.media, 'autumn', 'Evening sky.mov'), { seconds: 4, size: '640x360', grain: 12 });
  draw(path.join(folders.media, 'guide.wav'), ['-f', 'lavfi', '-i', 'sine=frequency=300:sample_rate=48000:duration=3']);
  server = await startServer(folders, { LINSTOCK_HARDWARE: 'simulated' });
});
test.afterAll(() => server.end('SIGTERM'));

const renditions = async () => (await server.call<RenditionPage>('GET', 'renditions')).body.rows;

test('a master is taken in by browsing, with the keyboard alone', async ({ page }) => {
  await page.goto(server.address);
  await expect(page.getByText('Nothing has been taken in yet')).toBeVisible();
  await page.keyboard.press('a');
  await page.getByRole('button', { name: folders.media }).press('Enter');
  await page.getByRole('button', { name: /autumn/ }).press('Enter');
  await page.getByRole('button', { name: /Evening sky/ }).press('Enter');
  await expectAccessible(page);
  await page.getByRole('button', { name: 'Take in', exact: true }).press('Enter');
  await expect(page.getByTestId('takein')).toContainText('1 found = 1 taken in + 0 already in + 0 refused');
  const row = page.getByRole('row', { name: /Evening sky/ });
  await expect(row).toContainText('640 × 360');
  await expect(row).toContainText('25 fps');
  await expectAccessible(page);
});

test('the order line changes the budget while typing, and Q queues it', async ({ page }) => {
  await page.goto(server.address);
  await page.getByRole('link', { name: 'Evening sky.mov' }).click();
  const line = page.getByTestId('order-line');
  await expect(line).toContainText('An MP4 in H.264, at 640 × 360 and the source’s 25 fps, at constant quality 23');
  await line.getByRole('button', { name: /What is held to/ }).click();
  await page.getByRole('radio', { name: /A size to fill/ }).click();
  await line.getByRole('button', { name: /Size to fill/ }).click();
  const field = page.getByLabel('Whole file, at most');
  await field.fill('1 bytes');
  await expect(page.getByRole('alert').filter({ hasText: 'Sound and container alone' })).toBeVisible();
  await field.fill('600 kB');
  await expect(page.getByTestId('expected')).toHaveText(/^(up to 600|59\d|600) kB$/);
  await field.fill('900 kB');
  await expect(page.getByTestId('expected')).toHaveText(/^(up to 900|89\d|900) kB$/);
  await field.fill('nonsense');
  await expect(page.getByText('Type a size such as')).toBeVisible();
  await field.fill('900 kB');
  await expectAccessible(page);
  await page.keyboard.press('Enter');
  await expect(field).toHaveCount(0);
  await expect(line).toContainText('filling 900 kB group by group');
  // All that was typed is one change.
  await page.keyboard.press('Control+z');
  await expect(line).not.toContainText('filling 900 kB');
  await page.keyboard.press('Control+Shift+z');
  await expect(line).toContainText('filling 900 kB');
  await page.keyboard.press('q');
  const row = page.getByTestId('rendition');
  await expect(row).toHaveAttribute('data-state', 'done', { timeout: 100_000 });
  const [listed] = await renditions();
  const { body: done } = await server.call<RenditionView>('GET', `renditions/${listed!.id}`);
  expect(done.bytes).toBeLessThanOrEqual(900_000);
  expect(statSync(done.path).size).toBe(done.bytes);
  await row.getByRole('button', { name: /Checks of/ }).click();
  await expect(page.getByTestId('checks').getByLabel('passed')).toHaveCount(done.checks.length);
  await expect(page.getByTestId('scale')).toBeVisible();
  await expectAccessible(page);
});

/** Opens the programme and orders a size to fill. */
async function orderSize(page: Page, programme = 'Evening sky.mov'): Promise<Locator> {
  await page.goto(server.address);
  await page.getByRole('link', { name: programme }).click();
  const line = page.getByTestId('order-line');
  await line.getByRole('button', { name: /What is held to/ }).click();
  await page.getByRole('radio', { name: /A size to fill/ }).click();
  return line;
}

test('the cap can be moved by key and by dragging', async ({ page }) => {
  await orderSize(page);
  const cap = page.getByRole('slider', { name: 'Cap' });
  await cap.focus();
  const before = Number(await cap.getAttribute('aria-valuenow'));
  await page.keyboard.press('ArrowRight');
  await expect.poll(async () => Number(await cap.getAttribute('aria-valuenow'))).toBeGreaterThan(before);
  const box = (await cap.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 10);
  await page.mouse.down();
  await page.mouse.move(box.x - 200, box.y + 10, { steps: 5 });
  await page.mouse.up();
  expect(Number(await cap.getAttribute('aria-valuenow'))).toBeLessThan(before);
});

test('under a cap the edge between picture and sound is dragged, and moved by key', async ({ page }) => {
  const line = await orderSize(page);
  const sound = page.getByRole('slider', { name: 'Rate of the sound' });
  await expect(sound).toHaveAttribute('aria-valuetext', '64 kb/s');
  const budget = page.getByTestId('budget');
  const pictureSize = async () => parseFloat((await budget.getByText(/^Picture /).innerText()).replace(/^\D+/, ''));
  const before = await pictureSize();
  await sound.focus();
  await page.keyboard.press('ArrowRight');
  await expect(line.getByRole('button', { name: /Rate of the sound/ })).toContainText('72 kb/s');
  const box = (await sound.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height - 3);
  await page.mouse.down();
  await page.mouse.move(box.x - 60, box.y + box.height - 3, { steps: 5 });
  await page.mouse.up();
  expect(Number(await sound.getAttribute('aria-valuenow'))).toBeGreaterThan(100);
  await expect.poll(pictureSize).toBeLessThan(before);
  await line.getByRole('button', { name: /What is held to/ }).click();
  await page.getByRole('radio', { name: /An average rate/ }).click();
  const picture = page.getByRole('slider', { name: 'Rate of the picture' });
  await picture.focus();
  await page.keyboard.press('PageUp');
  await expect(line.getByRole('button', { name: /Average rate of the picture/ })).toContainText('3,300 kb/s');
});

test('the viewing desk shows the same frame of both, by key, number, timecode and strip', async ({ page }) => {
  const [done] = await renditions();
  await page.goto(`${server.address}/desk/${done!.id}`);
  const pictures = page.getByTestId('pictures');
  await expect(pictures).toHaveAttribute('aria-label', `Frame ${done!.quality!.ssim.lowFrame} of master and result`);
  await page.keyboard.press('Home');
  await expect(pictures).toHaveAttribute('aria-label', /^Frame 0 /);
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await expect(pictures).toHaveAttribute('aria-label', /^Frame 2 /);
  for (const [which, address] of [
    ['master', /master\/2$/],
    ['result', /frames\/2$/],
  ] as const) {
    const image = pictures.locator(`img[data-which=${which}]`);
    expect(await image.evaluate((element: HTMLImageElement) => [element.naturalWidth, element.naturalHeight])).toEqual([
      640, 360,
    ]);
    await expect(image).toHaveAttribute('src', address);
  }
  await page.getByLabel('Frame', { exact: true }).fill('00:00:02:10');
  await page.keyboard.press('Enter');
  await expect(pictures).toHaveAttribute('aria-label', /^Frame 60 /);
  await expect(page.getByLabel('Timecode', { exact: true })).toHaveValue('00:00:02:10');
  const strip = (await page.getByTestId('quality-strip').boundingBox())!;
  await page.mouse.click(strip.x + strip.width * 0.505, strip.y + 20);
  await expect(pictures).toHaveAttribute('aria-label', /^Frame 50 /);
  await page.keyboard.press('w');
  await expect(pictures).toHaveAttribute('aria-label', new RegExp(`^Frame ${done!.quality!.ssim.lowFrame} `));
  await expectAccessible(page);
});

test('the pictures flip in place and enlarge without smoothing', async ({ page }) => {
  const [done] = await renditions();
  await page.goto(`${server.address}/desk/${done!.id}`);
  const pictures = page.getByTestId('pictures');
  const result = pictures.locator('img[data-which=result]');
  await expect(result).toBeVisible();
  await page.keyboard.press('f');
  await expect(result).toBeVisible();
  await page.keyboard.press('f');
  await expect(result).toBeHidden();
  await page.keyboard.press('f');
  await expect(result).toBeVisible();
  await page.keyboard.press('4');
  await expect(result).toHaveCSS('image-rendering', 'pixelated');
  expect((await result.boundingBox())?.width).toBe(2560);
  await page.keyboard.press('1');
  expect((await result.boundingBox())?.width).toBe(640);
  await page.keyboard.press('s');
  const divider = page.getByRole('slider', { name: /Divider/ });
  const box = (await divider.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 50);
  await page.mouse.down();
  await page.mouse.move(box.x - 150, box.y + 50, { steps: 4 });
  await page.mouse.up();
  expect(Number(await divider.getAttribute('aria-valuenow'))).toBeLessThan(40);
});

test('the queue shows what runs and stops it', async ({ page }) => {
  const [done] = await renditions();
  await server.call('POST', 'renditions', {
    programmeId: done!.programmeId,
    recipe: {
      video: { codec: 'hevc', effort: 'thorough', rate: { mode: 'average', kbps: 4000, passes: 2 } },
      audio: null,
    },
  });
  await page.goto(`${server.address}/queue`);
  await expect(page.getByText(/step \d of \d/)).toBeVisible();
  await expect(page.getByTestId('running-summary')).toContainText('Encoding');
  await expectAccessible(page);
  await page.getByRole('button', { name: /^Stop / }).click();
  await expect(page.getByText('Stopped; nothing of it was kept.')).toBeVisible();
  await expect(page.getByText('1 done, 0 failed, 1 stopped')).toBeVisible();
});

test('a sound-only programme offers only sound', async ({ page }) => {
  await server.takeIn(path.join(folders.media, 'guide.wav'));
  await page.goto(server.address);
  await page.getByRole('link', { name: 'guide.wav' }).click();
  const line = page.getByTestId('order-line');
  await expect(line).toContainText('An M4A of sound only, with AAC mono at 64 kb/s.');
  await line.getByRole('button', { name: /Codec of the picture/ }).click();
  await expect(page.getByRole('radio', { name: /^H\.264/ })).toBeDisabled();
});

test('a WebM is chosen in the order line, filled, verified, played and compared', async ({ page }) => {
  // Small: its encoder is slow, and is asked several times.
  await server.takeIn(drawMaster(path.join(folders.media, 'Dusk.mov'), { seconds: 4, size: '320x180', grain: 12 }));
  const line = await orderSize(page, 'Dusk.mov');
  await line.getByRole('button', { name: /Container/ }).click();
  await page.getByRole('radio', { name: /^WebM/ }).click();
  await expect(line).toContainText('A WebM in VP9');
  await expect(line).toContainText('with Opus mono at');
  // What does not hold an average rate in one pass says so.
  await line.getByRole('button', { name: /What is held to/ }).click();
  await page.getByRole('radio', { name: /^An average rate/ }).click();
  await line.getByRole('button', { name: /Passes/ }).click();
  await expect(page.getByRole('radio', { name: /^One pass/ })).toBeDisabled();
  await expect(page.getByText(/VP9 does not hold an average rate in one pass/)).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await line.getByRole('button', { name: /Size to fill/ }).click();
  await page.getByLabel('Whole file, at most').fill('120 kB');
  await page.keyboard.press('Enter');
  await page.getByText('Fine control').click();
  await page.getByRole('radio', { name: /^Fast.*cpu-used/ }).click();
  await page.keyboard.press('q');
  const row = page.getByTestId('rendition').filter({ hasText: '.webm' });
  await expect(row).toHaveAttribute('data-state', 'done', { timeout: 120_000 });
  const made = (await renditions()).find(({ outline }) => outline.codec === 'vp9')!;
  expect(made.bytes).toBeLessThanOrEqual(120_000);
  expect(made.bytes).toBeGreaterThan(120_000 * 0.95);
  await row.getByRole('button', { name: /Checks of/ }).click();
  await page.getByRole('button', { name: 'Play it here' }).click();
  const video = page.getByLabel(/^Result:/);
  const shown = () => video.evaluate((element: HTMLVideoElement) => [element.videoWidth, element.currentTime > 0.3]);
  await expect.poll(shown).toEqual([320, true]);
  await row.getByRole('link', { name: /^Look at/ }).click();
  await expect(page.getByTestId('pictures')).toHaveAttribute('aria-label', /of master and result$/);
});

test('what an archive copy takes is told by frames of its own, once they were weighed', async ({ page }) => {
  await page.goto(server.address);
  await page.getByRole('link', { name: 'Evening sky.mov' }).click();
  const line = page.getByTestId('order-line');
  await line.getByRole('button', { name: /Container/ }).click();
  await page.getByRole('radio', { name: /^Matroska/ }).click();
  await line.getByRole('button', { name: /Codec of the picture/ }).click();
  await page.getByRole('radio', { name: /^FFV1/ }).click();
  await expect(line).toContainText('FFV1');
  const budget = page.getByTestId('budget');
  await expect(budget).toContainText('The quality decides; the size follows from the picture.');
  const told = await page.getByTestId('expected').locator('xpath=..').innerText();
  const [low = 0, high = Infinity] = Array.from(told.matchAll(/([\d.]+) [kMG]?B(?= to|$)/gm), ([, number]) =>
    Number(number),
  );
  expect(high / low).toBeLessThan(2);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(line).toContainText('An MP4 in');
});

test('what a device in the machine encodes is offered beside the efforts, and holds an average', async ({ page }) => {
  await page.goto(server.address);
  await page.getByRole('link', { name: 'Evening sky.mov' }).click();
  const line = page.getByTestId('order-line');
  await line.getByRole('button', { name: /Codec of the picture/ }).click();
  await page.getByRole('radio', { name: /^H\.264/ }).click();
  await line.getByRole('button', { name: /Container/ }).click();
  await page.getByRole('radio', { name: /^MP4/ }).click();
  await line.getByRole('button', { name: /What is held to/ }).click();
  await page.getByRole('radio', { name: /^Constant quality/ }).click();
  await page.getByText('Fine control').click();
  await page.getByRole('radio', { name: /^In hardware/ }).click();
  await expect(line).toContainText('An MP4 in H.264 in hardware');
  await expect(line).toContainText('averaging 3,000 kb/s in one pass');
  await expectAccessible(page);
  await page.keyboard.press('q');
  const row = page.getByTestId('rendition').filter({ hasText: 'H.264 in hardware' });
  await expect(row).toHaveAttribute('data-state', 'done', { timeout: 120_000 });
  // Whatever it does not hold is made in software.
  await line.getByRole('button', { name: /What is held to/ }).click();
  await page.getByRole('radio', { name: /^Constant quality/ }).click();
  await expect(line).toContainText('An MP4 in H.264, at');
  await line.getByRole('button', { name: /Codec of the picture/ }).click();
  await page.getByRole('radio', { name: /^AV1/ }).click();
  await expect(page.getByRole('radio', { name: /^In hardware/ })).toBeDisabled();
  await expect(page.getByText('Nothing in this machine encodes AV1.')).toBeVisible();
});

test('another shape is cut out of the picture, or has the whole of it, turned as one likes', async ({ page }) => {
  await page.goto(server.address);
  await page.getByRole('link', { name: 'Evening sky.mov' }).click();
  const line = page.getByTestId('order-line');
  await line.getByRole('button', { name: /Codec of the picture/ }).click();
  await page.getByRole('radio', { name: /^H\.264/ }).click();
  await page.getByText('Fine control').click();
  const shape = page.getByLabel('Shape', { exact: true });
  await shape.getByRole('radio', { name: '9:16' }).click();
  await expect(line).toContainText(/cut to 9:16, at 202 × 360/);
  await page.getByRole('radio', { name: /^Whole, out of focus/ }).click();
  await expect(line).toContainText(/padded with itself out of focus, at 202 × 360/);
  await line.getByRole('button', { name: /Frame size/ }).click();
  await expect(page.getByRole('radio', { name: '1080 × 1920' })).toContainText('Enlarged');
  await page.getByLabel('Or exactly').fill('180 x 320');
  await page.keyboard.press('Enter');
  await expect(line).toContainText('at 180 × 320');
  await page.getByRole('radio', { name: 'Left and right exchanged' }).click();
  await expect(line).toContainText('mirrored left to right, padded with itself out of focus');
  await expectAccessible(page);
  await page.keyboard.press('q');
  const row = page.getByTestId('rendition').filter({ hasText: '180 × 320' });
  await expect(row).toHaveAttribute('data-state', 'done', { timeout: 120_000 });
  await shape.getByRole('radio', { name: /^Its own/ }).click();
  await expect(line).toContainText('mirrored left to right, at 640 × 360');
});

test('noise, light and sound are treated, and the frame is seen as it is ordered', async ({ page }) => {
  await page.goto(server.address);
  await page.getByRole('link', { name: 'Evening sky.mov' }).click();
  const line = page.getByTestId('order-line');
  await page.getByText('Fine control').click();
  await page.getByRole('radio', { name: /^Clearly less/ }).click();
  await page.getByLabel('Brightness').fill('0.1');
  await page.getByLabel('Gamma').fill('99');
  await expect(page.getByText('Type a number from 0.1 to 10.')).toBeVisible();
  await page.getByLabel('Gamma').fill('1.2');
  await page.getByLabel('Fades out over').fill('0.5');
  await page.getByLabel('Turned up, or down below zero').fill('-6');
  await page.keyboard.press('Enter');
  await expect(line).toContainText('50 % of noise reduction, brightness +0.1, gamma × 1.2');
  await expect(line).toContainText('turned down by 6 dB, faded out over 0.5 s');
  await page.keyboard.press('g');
  const picture = page.getByTestId('ordered-picture');
  const drawn = picture.getByRole('img', { name: 'As it is ordered' });
  await expect(drawn).toHaveJSProperty('naturalWidth', 640);
  await page.keyboard.press('f');
  await expect(picture.getByRole('img', { name: 'The master' })).toBeVisible();
  await expectAccessible(page);
  await page.keyboard.press('q');
  const row = page.getByTestId('rendition').filter({ hasText: 'noise reduction' });
  await expect(row).toHaveAttribute('data-state', 'done', { timeout: 120_000 });
  await page.keyboard.press('g');
  await expect(picture).toBeHidden();
});

test('a file is named and tells of itself as it is asked to', async ({ page }) => {
  await page.goto(server.address);
  await page.getByRole('link', { name: 'Evening sky.mov' }).click();
  await page.getByText('Fine control').click();
  const names = page.getByLabel('Names of files');
  await names.fill('{programme} {nothing}');
  await expect(page.getByText(/^There is no \{nothing\}; there are \{programme\}/)).toBeVisible();
  await names.fill('{date} {programme}_{height}p');
  await names.press('Enter');
  await expect(page.getByText(/^Left empty: \d{4}-\d\d-\d\d Evening sky_360p\.mp4$/)).toBeVisible();
  await page.getByRole('radio', { name: 'what is typed here' }).click();
  await page.getByLabel('Copyright').fill('The hill observatory');
  await page.keyboard.press('Enter');
  await expectAccessible(page);
  await page.keyboard.press('q');
  const row = page.getByTestId('rendition').filter({ hasText: /Evening sky_360p/ });
  await expect(row).toHaveAttribute('data-state', 'done', { timeout: 120_000 });
  await row.getByRole('button', { name: /^Checks of/ }).click();
  await expect(page.getByText('The file tells its copyright')).toBeVisible();
});

test('settings tell what is installed, in light and dark', async ({ page }) => {
  await page.goto(`${server.address}/settings`);
  await expect(page.getByText(folders.output)).toBeVisible();
  await expect(page.getByTestId('hardware')).toContainText(
    'H.264 by a simulated device and HEVC by a simulated device',
  );
  await expectAccessible(page);
  await expect(page.getByRole('radio', { name: 'As the system' })).toBeChecked();
  await page.getByRole('radio', { name: 'Light' }).click();
  await expect(page.locator('html')).toHaveClass(/light/);
  await page.getByRole('radio', { name: 'Dark' }).click();
  await expect(page.locator('html')).toHaveClass(/dark/);
  await expectAccessible(page);
  const [done] = await renditions();
  for (const where of ['', `programmes/${done!.programmeId}`, 'queue', `desk/${done!.id}`]) {
    await page.goto(`${server.address}/${where}`);
    await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
    await expectAccessible(page);
  }
});

test('“?” lists the keys and a programme is forgotten', async ({ page }) => {
  await page.goto(server.address);
  await page.keyboard.press('Shift+?');
  await expect(page.getByRole('dialog')).toContainText('Flip between master and result');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Forget guide.wav' }).click();
  await expect(page.getByRole('link', { name: 'guide.wav' })).toHaveCount(0);
  await expect(page.getByTestId('forgotten-row')).toContainText('guide.wav is forgotten');
  expect(statSync(path.join(folders.media, 'guide.wav')).size).toBeGreaterThan(0);
});
