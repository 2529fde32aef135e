import { mkdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import type { ScaleView } from '../../src/contract/trial.ts';
import { drawMaster } from '../support/footage.ts';
import { makeFolders, startServer, type TestServer } from '../support/server.ts';
import { expectAccessible } from './accessible.ts';

const folders = makeFolders();
let server: TestServer;
let programmeId = '';

test.describe.configure({ mode: 'serial' });

test.beforeAll(async () => {
  mkdirSync(folders.media, { recursive: true });
  const film = drawMaster(path.join(folders.media, 'Dusk.mov'), { seconds: 6, size: '320x180', grain: 8 });
  server = await startServer(folders);
  programmeId = (await server.takeIn(film)).id;
});
test.afterAll(() => server.end('SIGTERM'));

test('a trial draws size against quality, and what it finds goes into the order', async ({ page }) => {
  await page.goto(`${server.address}/programmes/${programmeId}`);
  const trials = page.getByTestId('trials');
  await expect(trials).toContainText('settings, in H.264 and HEVC at 320 × 180');
  await trials.getByRole('button', { name: /Codecs that are tried/ }).click();
  await page.getByRole('checkbox', { name: 'HEVC' }).press('Space');
  await page.keyboard.press('Escape');
  await expect(trials).toContainText('3 settings, in H.264 at 320 × 180');
  await trials.getByRole('button', { name: 'Try it' }).press('Enter');
  await expect(page.getByTestId('tried-scale')).toBeVisible({ timeout: 60_000 });
  await expect(page.getByTestId('trial-standing')).not.toContainText('%', { timeout: 60_000 });
  await expectAccessible(page);
  const { body: scale } = await server.call<ScaleView>('GET', `programmes/${programmeId}/scale`);
  const points = scale.curves[0]!.points;
  expect(points.map(({ kind }) => kind)).toEqual(['tried', 'forecast', 'tried', 'forecast', 'tried']);

  await trials.getByText('All figures').click();
  const coarsest = trials.getByRole('row').nth(1);
  await expect(coarsest).toContainText(`${points[0]!.quality}`);
  await coarsest.getByRole('button', { name: 'Use' }).click();
  await expect(page.getByTestId('order-line')).toContainText(`at constant quality ${points[0]!.quality}`);

  await coarsest.getByRole('button', { name: 'See' }).click();
  const tried = page.getByRole('img', { name: 'As it was tried' });
  await expect
    .poll(() => tried.evaluate((image: HTMLImageElement) => image.naturalWidth), { timeout: 30_000 })
    .toBe(320);
  await page.keyboard.press('f');
  await expect(page.getByRole('img', { name: 'The master' })).toBeVisible();
  await expect(tried).toBeHidden();
});

test('an order at tried settings knows its size, and its range is narrow', async ({ page }) => {
  await page.goto(`${server.address}/programmes/${programmeId}`);
  const { body: scale } = await server.call<ScaleView>('GET', `programmes/${programmeId}/scale`);
  const [point] = scale.curves[0]!.points;
  const plan = await server.call<{ expectedRange: { low: number; high: number } }>('POST', 'plan', {
    programmeId,
    recipe: {
      container: 'mp4',
      video: { codec: 'h264', rate: { mode: 'quality', value: point!.quality } },
      audio: null,
    },
  });
  const { low, high } = plan.body.expectedRange;
  expect(high / low).toBeLessThan(1.3);
  await expect(page.getByTestId('scale-findings')).toContainText('is reached by H.264 at 320 × 180');
});

test('the cap is dragged in the chart, and one drag is one undo', async ({ page }) => {
  await page.goto(`${server.address}/programmes/${programmeId}`);
  await page.getByRole('button', { name: 'Put a cap on it' }).click();
  await expect(page.getByTestId('order-line')).toContainText('filling');
  const handle = page.getByRole('slider', { name: 'Cap in the chart' });
  const capped = await handle.getAttribute('aria-valuenow');
  await handle.scrollIntoViewIfNeeded();
  const box = (await handle.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - 20, y, { steps: 2 });
  await page.mouse.move(x - 60, y, { steps: 4 });
  await page.mouse.up();
  await expect(handle).not.toHaveAttribute('aria-valuenow', capped!);
  expect(Number(await handle.getAttribute('aria-valuenow'))).toBeLessThan(Number(capped));
  await page.keyboard.press('ControlOrMeta+z');
  await expect(handle).toHaveAttribute('aria-valuenow', capped!);
  await handle.press('ArrowRight');
  await expect.poll(async () => Number(await handle.getAttribute('aria-valuenow'))).toBeGreaterThan(Number(capped));
});

test('the chart is saved as a picture, and its figures as lines and as JSON', async ({ page }) => {
  await page.goto(`${server.address}/programmes/${programmeId}`);
  const saving = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Save as PNG' }).click();
  const file = await (await saving).path();
  // The signature of PNG, and its width in the header (ISO/IEC 15948).
  const png = readFileSync(file);
  expect(png.subarray(1, 4).toString('latin1')).toBe('PNG');
  expect(png.readUInt32BE(16)).toBeGreaterThan(600);
  await page.getByTestId('trials').getByText('All figures').click();
  for (const name of ['As CSV', 'As JSON']) {
    const href = await page.getByRole('link', { name }).getAttribute('href');
    expect((await page.request.get(`${server.address}${href}`)).ok()).toBe(true);
  }
});

test('a moment of one’s own is tried, and taken back', async ({ page }) => {
  await page.goto(`${server.address}/programmes/${programmeId}`);
  const own = page.getByTestId('own-excerpts');
  await own.getByRole('button', { name: 'Try the moment at the playhead too' }).click();
  await expect(own.getByRole('button', { name: /^Do not try/ })).toHaveCount(1);
  await expect(own.getByRole('button', { name: 'Try the moment at the playhead too' })).toBeDisabled();
  await own.getByRole('button', { name: /^Do not try/ }).click();
  await expect(own.getByRole('button', { name: /^Do not try/ })).toHaveCount(0);
});

test('nothing of it is cut off at 640 pixels, and all of it is reached', async ({ page }) => {
  await page.setViewportSize({ width: 640, height: 400 });
  await page.goto(`${server.address}/programmes/${programmeId}`);
  await expect(page.getByTestId('tried-scale')).toBeVisible();
  await page.getByTestId('trials').getByText('All figures').click();
  const wide = await page.evaluate(() => document.documentElement.scrollWidth);
  expect(wide).toBeLessThanOrEqual(640);
  await expectAccessible(page);
});
