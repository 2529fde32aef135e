import { mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { expect, test, type Page } from '@playwright/test';
import { PNG } from 'pngjs';
import type { PortionView, RenditionPage } from '../../src/contract/views.ts';
import { draw, drawMaster } from '../support/footage.ts';
import { IN_TIME, makeFolders, startServer, type TestServer } from '../support/server.ts';
import { expectAccessible } from './accessible.ts';

const folders = makeFolders();
const inMedia = (name: string) => path.join(folders.media, name);
let server: TestServer;

test.describe.configure({ mode: 'serial' });

test.beforeAll(async () => {
  mkdirSync(inMedia('season'), { recursive: true });
  const black = (seconds: number) => `color=black:s=640x360:r=25:d=${seconds}`;
  const moving = 'testsrc2=s=640x360:r=25:d=6,scroll=horizontal=0.01';
  const tone = `aevalsrc='if(between(t,1,7),0.3*sin(2*PI*440*t),0)':s=48000:d=8.2,pan=stereo|c0=c0|c1=c0`;
  draw(inMedia('season/Talk.mov'), [
    ...['-filter_complex', `${black(1)}[a];${moving}[b];${black(1.2)}[c];[a][b][c]concat=n=3:v=1:a=0[v];${tone}[s]`],
    ...['-map', '[v]', '-map', '[s]', '-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '12', '-c:a', 'pcm_s16le'],
    ...['-pix_fmt', 'yuv420p', '-timecode', '10:00:00:00', '-color_range', 'tv'],
    ...['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709'],
  ]);
  drawMaster(inMedia('season/Web film.mp4'), {
    seconds: 4,
    size: '640x360',
    grain: 4,
    extra: ['-c:a', 'aac', '-pix_fmt', 'yuv420p', '-crf', '24'],
  });
  writeFileSync(inMedia('season/list of shots.txt'), '1. Dusk');
  server = await startServer(folders);
});
test.afterAll(() => server.end('SIGTERM'));

const programmes = async () => server.programmes();
const idOf = async (name: string) => (await programmes()).find((programme) => programme.name === name)!.id;
const open = async (page: Page, name: string) => page.goto(`${server.address}/programmes/${await idOf(name)}`);
const frameOf = (page: Page) => page.getByTestId('player').getAttribute('data-frame').then(Number);

test('a whole folder is taken in, and the refused are listed with the reason', async ({ page }) => {
  await page.goto(server.address);
  await page.keyboard.press('a');
  await page.getByRole('button', { name: folders.media }).press('Enter');
  await page.getByRole('button', { name: /season/ }).press('Enter');
  await page.getByRole('button', { name: 'Take in this whole folder' }).click();
  const takeIn = page.getByTestId('takein');
  await expect(takeIn).toContainText('3 found = 2 taken in + 0 already in + 1 refused');
  await takeIn.getByText('1 file was refused').click();
  await expect(takeIn).toContainText('This is not a film or sound file');
  await expect(page.getByRole('row', { name: /Talk.mov/ })).toContainText('640 × 360');
  await expectAccessible(page);
  await page.reload();
  await expect(page.getByTestId('takein')).toContainText('3 found = 2 taken in');
});

test('pasted paths are taken in, and counted as already in the second time', async ({ page }) => {
  drawMaster(inMedia('loose.mov'), { seconds: 1 });
  await page.goto(server.address);
  for (const counts of ['1 taken in + 0 already in', '0 taken in + 1 already in']) {
    await page.keyboard.press('a');
    await page.getByLabel('Or paths of files and folders').fill(`"${inMedia('loose.mov')}"`);
    await page.getByRole('button', { name: 'Take in', exact: true }).click();
    await expect(page.getByTestId('takein').first()).toContainText(counts);
  }
});

test('the page says what is found, and applies a fix', async ({ page }) => {
  await open(page, 'Talk.mov');
  const advisories = page.getByTestId('advisories');
  await expect(advisories).toContainText('black for 1.0 s at the head and 1.2 s at the tail', IN_TIME);
  await expect(advisories).toContainText('Both channels carry the same sound');
  await expectAccessible(page);
  await advisories.getByRole('button', { name: 'Make it mono' }).click();
  await expect(page.getByTestId('order-line')).toContainText('mono');
  // One key applies a fix: the number beside it.
  await page.keyboard.press('1');
  const row = page.getByTestId('portion-row');
  await expect(row.getByLabel('In point of Portion 1')).toHaveValue('10:00:01:00');
  await expect(row.getByLabel('Out point of Portion 1')).toHaveValue('10:00:06:24');
  await expect(row).toContainText('150 frames, 6.00 s, 73.2 %');
  await expect(page.getByTestId('portion-glance')).toContainText('73 % of the programme');
  const saved = async () =>
    (await server.call<PortionView[]>('GET', `programmes/${await idOf('Talk.mov')}/portions`)).body;
  await expect.poll(saved).toMatchObject([{ name: 'Portion 1', inFrame: 25, outFrame: 174 }]);
  // One undo goes through portions and order alike.
  await page.keyboard.press('Control+z');
  await expect(row).toHaveCount(0);
  await expect.poll(saved).toEqual([]);
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('order-line')).not.toContainText('mono');
  await page.keyboard.press('Control+Shift+z');
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(saved).toMatchObject([{ inFrame: 25, outFrame: 174 }]);
});

test('bars and fields are taken away by key, and undone', async ({ page }) => {
  draw(inMedia('tape.mov'), [
    ...['-f', 'lavfi', '-i', 'testsrc2=s=640x280:r=50:d=6,scroll=horizontal=0.02,pad=640:360:0:40'],
    ...['-vf', 'tinterlace=mode=interleave_top,setfield=tff,setsar=1', '-c:v', 'libx264', '-flags', '+ilme+ildct'],
    ...['-crf', '8', '-pix_fmt', 'yuv420p', '-an'],
  ]);
  await server.takeIn(inMedia('tape.mov'));
  await open(page, 'tape.mov');
  const advisories = page.getByTestId('advisories');
  await expect(advisories.getByRole('button', { name: /Crop the bars off/ })).toBeVisible();
  const order = page.getByTestId('order-line');
  // Tagged interlaced, it is deinterlaced from the start.
  await expect(order).toContainText('deinterlaced, at 640 × 360');
  const key = await advisories
    .getByRole('button', { name: /Crop the bars off/ })
    .locator('kbd')
    .textContent();
  await page.keyboard.press(key!.trim());
  await expect(order).toContainText('deinterlaced, cropped, at 640 × 280');
  await page.getByText('Fine control').click();
  const crop = page.getByLabel('Picture: cut off at top, bottom, left, right');
  await expect(crop).toHaveValue('40, 40, 0, 0');
  await crop.fill('40, 41');
  await expect(page.getByText('Type up to four even numbers')).toBeVisible();
  await crop.fill('340, 0');
  await expect(page.getByRole('alert').filter({ hasText: 'Cropping leaves 640 × 20' })).toBeVisible();
  await crop.fill('40, 40');
  await page.getByRole('radio', { name: 'As it is' }).click();
  await expect(order).not.toContainText('deinterlaced');
  await page.keyboard.press('Control+z');
  await expect(order).toContainText('deinterlaced, cropped');
  await page.getByRole('button', { name: /Make each field a frame/ }).click();
  await expect(order).toContainText('and 50 fps');
  await order.getByRole('button', { name: /Frame rate/ }).click();
  await expect(page.getByRole('radio', { name: /Each field a frame/ })).toBeChecked();
  await expectAccessible(page);
});

test('two tracks of one channel are left and right, and one alone is told of', async ({ page }) => {
  const tones = [440, 880].flatMap((hertz) => ['-f', 'lavfi', '-i', `sine=f=${hertz}:r=48000:d=2`]);
  draw(inMedia('twin.mov'), [
    ...['-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=25:d=2', ...tones, ...['-map', '0', '-map', '1', '-map', '2']],
    ...['-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'pcm_s16le'],
  ]);
  await server.takeIn(inMedia('twin.mov'));
  await open(page, 'twin.mov');
  const order = page.getByTestId('order-line');
  await expect(order).toContainText('with AAC stereo of tracks 1 and 2 as its channels at 128 kb/s.');
  await expect(page.getByTestId('advisories')).toContainText('they are taken as left and right');
  await order.getByRole('button', { name: /Sound tracks/ }).click();
  await page.getByRole('checkbox', { name: /Track 2/ }).click();
  await page.keyboard.press('Escape');
  await expect(order).toContainText('AAC stereo of track 1 at');
  await expect(page.getByTestId('recipe-changes')).toHaveText(', with 1 change: sound tracks');
  await expect(page.getByText('the right one would be missing')).toBeVisible();
  await page.getByRole('button', { name: /Take them together/ }).click();
  await expect(order).toContainText('of tracks 1 and 2 as its channels');
  await expect(page.getByTestId('recipe-changes')).toHaveCount(0);
});

test('a file that is small already is copied by key, and its captions go beside it', async ({ page }) => {
  const extra = ['-c:a', 'aac', '-pix_fmt', 'yuv420p', '-crf', '24'];
  drawMaster(inMedia('small.mp4'), { seconds: 2, grain: 4, extra });
  writeFileSync(inMedia('small.srt'), '1\n00:00:00,500 --> 00:00:01,000\nGood evening\n');
  await server.takeIn(inMedia('small.mp4'));
  await open(page, 'small.mp4');
  await page.getByRole('button', { name: /Copy its streams/ }).click();
  await expect(page.getByTestId('order-line')).toHaveText(
    'An MP4 of the master’s own picture, copied as it is, with the master’s own sound.',
  );
  await expect(page.getByTestId('budget')).toContainText('The master’s own streams decide.');
  await page.keyboard.press('q');
  const row = page.getByRole('row', { name: /small 320x180 h264/ });
  await expect(row).toContainText('identical');
  await row.getByRole('button', { name: /^Checks of/ }).click();
  const coming = page.waitForEvent('download');
  await page.getByTestId('captions').getByRole('link', { name: 'small.srt' }).click();
  const captions = await coming;
  expect(captions.suggestedFilename()).toBe('small 320x180 h264.vtt');
  expect(readFileSync(await captions.path(), 'utf8')).toBe('WEBVTT\n\n00:00:00.500 --> 00:00:01.000\nGood evening\n');
  await page.getByRole('button', { name: /Codec of the picture/ }).click();
  await page.getByRole('radio', { name: /^H\.264/ }).click();
  await expect(page.getByTestId('order-line')).toContainText('in H.264');
  await expect(page.getByTestId('order-line')).toContainText('with the master’s own sound');
  await page.getByRole('button', { name: /^Sound:/ }).click();
  await page.getByRole('radio', { name: /^Opus/ }).click();
  await expect(page.getByTestId('order-line')).toContainText('with Opus stereo at 128 kb/s');
  await page.getByText('Fine control').click();
  await page.getByRole('radio', { name: /^drawn into the picture/ }).click();
  await expect(page.getByTestId('order-line')).toContainText('captions drawn in, at 320 × 180');
  await expect(page.getByTestId('standing-order')).toContainText('captions drawn in');
});

test('the playhead moves by keys and by typing, and shows the exact frame', async ({ page }) => {
  await open(page, 'Talk.mov');
  const timecode = page.getByLabel('Timecode', { exact: true });
  // It opens where the black at its head ends.
  await expect(timecode).toHaveValue('10:00:01:00');
  await page.keyboard.press('End');
  await expect(timecode).toHaveValue('10:00:08:04');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Shift+ArrowLeft');
  expect(await frameOf(page)).toBe(178);
  await timecode.fill('10:00:03:00');
  await timecode.press('Enter');
  await expect(page.getByTestId('still')).toHaveAttribute('src', /frames\/75\?/);
  await page.getByLabel('Frame', { exact: true }).fill('2s');
  await page.getByLabel('Frame', { exact: true }).press('Enter');
  expect(await frameOf(page)).toBe(50);
  // A scene change after the head of black.
  await page.keyboard.press('[');
  await expect(page.getByTestId('still')).toHaveAttribute('src', /frames\/25\?/);
});

for (const [name, via] of [
  ['Talk.mov', 'a stand-in'],
  ['Web film.mp4', 'the file itself'],
] as const) {
  test(`${name} plays by ${via}, and stops on a frame of the master`, async ({ page }) => {
    await open(page, name);
    await expect(page.getByTestId('still')).toBeVisible();
    await page.getByLabel('Frame', { exact: true }).fill('30');
    await page.getByLabel('Frame', { exact: true }).press('Enter');
    await page.keyboard.press('Space');
    await expect.poll(() => frameOf(page)).toBeGreaterThan(40);
    const { width, source } = await page.evaluate(() => {
      const video = document.querySelector('video')!;
      return { width: video.videoWidth, source: video.currentSrc };
    });
    expect(width).toBe(640);
    expect(source.startsWith('blob:')).toBe(via === 'a stand-in');
    await page.keyboard.press('k');
    const frame = await frameOf(page);
    await expect(page.getByTestId('still')).toHaveAttribute('src', new RegExp(`frames/${frame}\\?`));
    // The video stands on the same frame as the still over it.
    const shown = await page.evaluate(() => document.querySelector('video')!.currentTime * 25);
    expect(Math.floor(shown + 0.05)).toBe(frame);
  });
}

test('strips zoom from the whole length to single frames and back', async ({ page }) => {
  await open(page, 'Talk.mov');
  const drawing = page.getByTestId('strips-drawing');
  await expect(drawing).toHaveAttribute('data-to', '8.200');
  await page.getByLabel('Frame', { exact: true }).fill('100');
  await page.getByLabel('Frame', { exact: true }).press('Enter');
  for (let step = 0; step < 8; step += 1) await page.keyboard.press('+');
  await expect(drawing).toHaveAttribute('data-from', '3.824');
  await expect(drawing).toHaveAttribute('data-to', '4.224');
  await page.keyboard.press('0');
  await expect(drawing).toHaveAttribute('data-from', '0.000');
  // Pressing on the strips goes there.
  const box = (await drawing.boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + 20);
  expect(await frameOf(page)).toBe(102);
});

test('the strips can be looked at away from the playhead, until it moves', async ({ page }) => {
  await open(page, 'Talk.mov');
  const strips = page.getByTestId('strips-drawing');
  await expect(strips).toHaveAttribute('data-to', '8.200');
  await page.keyboard.press('Home');
  const box = (await strips.boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.8, box.y + 30);
  await page.keyboard.down('Control');
  const from = () => strips.getAttribute('data-from').then(Number);
  await expect(async () => {
    await page.mouse.wheel(0, -240);
    expect(await from()).toBeGreaterThan(4);
  }).toPass();
  await page.keyboard.up('Control');
  expect(await frameOf(page)).toBe(0);
  await page.keyboard.press('ArrowRight');
  await expect.poll(from).toBeLessThanOrEqual(0.04);
});

test('a varying rate is laid out by its own clock, and its frames are named by when they are shown', async ({
  page,
}) => {
  // 25 frames a second, but the frame at 3.96 s is held for four seconds.
  draw(inMedia('season/Phone.mp4'), [
    ...['-f', 'lavfi', '-i', "testsrc2=s=640x360:r=25:d=12,select='not(between(t,4,7.9))'"],
    ...['-fps_mode', 'vfr', '-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p'],
  ]);
  await server.takeIn(inMedia('season/Phone.mp4'));
  await open(page, 'Phone.mp4');
  const drawing = page.getByTestId('strips-drawing');
  await expect(drawing).toHaveAttribute('data-to', '12.000');
  const box = (await drawing.boundingBox())!;
  const timecode = page.getByLabel('Timecode', { exact: true });
  const press = (seconds: number) => page.mouse.click(box.x + (box.width * seconds) / 12, box.y + 20);
  await press(6);
  await expect(timecode).toHaveValue('00:00:03.960');
  expect(await frameOf(page)).toBe(99);
  await press(10.02);
  await expect(timecode).toHaveValue('00:00:10.000');
  await timecode.fill('0:07.9');
  await timecode.press('Enter');
  expect(await frameOf(page)).toBe(99);
  await page.keyboard.press('ArrowRight');
  await expect(timecode).toHaveValue('00:00:07.920');
  await page.keyboard.press('i');
  await expect(page.getByTestId('portion-row')).toContainText('4.08 s, 34.0 %');
  // The source spends bits at 3 s and at 10 s, and none at 6 s, while the one frame is held.
  // It is drawn when the server has read it.
  await expect(async () => {
    const lowestLane = await colourOfLowestLane(page);
    expect(lowestLane(10 / 12)).toEqual(lowestLane(3 / 12));
    expect(lowestLane(6 / 12)).not.toEqual(lowestLane(3 / 12));
  }).toPass(IN_TIME);
});

/** Colours along the lower edge of the strips, by share of the width. */
async function colourOfLowestLane(page: Page): Promise<(share: number) => number[]> {
  const strips = page.getByTestId('strips-drawing');
  await strips.evaluate((element) => element.scrollIntoView({ block: 'center' }));
  const { width, height, data } = PNG.sync.read(await strips.screenshot());
  return (share) => {
    const at = ((height - 3) * width + Math.round(share * width)) * 4;
    return Array.from(data.subarray(at, at + 3));
  };
}

test('portions are marked by keys and by dragging, and each becomes a rendition', async ({ page }) => {
  await open(page, 'Talk.mov');
  await page.getByRole('button', { name: 'Take the whole programme' }).click();
  await expect(page.getByTestId('portion-glance')).toContainText('The whole programme: 8.20 s');
  const go = async (frame: number) => {
    await page.getByLabel('Frame', { exact: true }).fill(String(frame));
    await page.getByLabel('Frame', { exact: true }).press('Enter');
  };
  await go(30);
  await page.keyboard.press('i');
  await go(54);
  await page.keyboard.press('o');
  await expect(page.getByTestId('portion-row')).toContainText('25 frames');
  const lane = (await page.getByTestId('portion-lane').boundingBox())!;
  const at = (frame: number) => lane.x + ((frame + 0.5) / 205) * lane.width;
  await page.mouse.move(at(100), lane.y + 10);
  await page.mouse.down();
  await page.mouse.move(at(130), lane.y + 10);
  await page.mouse.up();
  const rows = page.getByTestId('portion-row');
  await expect(rows).toHaveCount(2);
  await expect(rows.nth(1)).toContainText('31 frames');
  await rows.nth(1).getByLabel('Name of the portion').fill('The middle');
  await rows.nth(1).getByLabel('Name of the portion').press('Enter');
  await page.getByRole('slider', { name: 'The middle, out point' }).press('ArrowRight');
  await expect(rows.nth(1)).toContainText('32 frames');
  await page.getByRole('button', { name: 'Queue all 2' }).click();
  const renditions = async () =>
    (await server.call<RenditionPage>('GET', `renditions?programmeId=${await idOf('Talk.mov')}`)).body.rows;
  await expect
    .poll(async () => (await renditions()).map(({ state }) => state), { timeout: 60_000 })
    .toEqual(['done', 'done']);
  expect((await renditions()).map(({ outline }) => outline.frameCount)).toEqual([25, 32]);
  await expect(page.getByTestId('rendition').first()).toContainText('Portion 1: 10:00:01:05 to 10:00:02:04');
});

test('all facts are a fold away, and everything raw another', async ({ page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await open(page, 'Talk.mov');
  await page.getByText('All facts').click();
  const facts = page.getByTestId('facts');
  await expect(facts).toContainText('25/1 (25), constant by its timestamps');
  await expect(facts).toContainText('progressive by its picture; tagged progressive');
  await expect(facts).toContainText('10:00:00:00');
  await facts.getByRole('button', { name: 'Copy as text' }).click();
  await expect.poll(() => page.evaluate(() => navigator.clipboard.readText())).toContain('Chroma: 4:2:0');
  await facts.getByText('Everything raw').click();
  await expect(facts.locator('pre')).toContainText('"codec_name": "h264"');
  await expectAccessible(page);
});

test('a file of this machine is uploaded and taken in', async ({ page }) => {
  await page.goto(server.address);
  const content = readFileSync(inMedia('loose.mov'));
  await page.setInputFiles('input[type=file]', { name: 'From home.mov', mimeType: 'video/quicktime', buffer: content });
  const uploads = page.getByTestId('uploads');
  await expect(uploads).toContainText('taken in');
  expect(readFileSync(inMedia('From home.mov')).equals(content)).toBe(true);
  await expect(page.getByRole('row', { name: /From home.mov/ })).toBeVisible();
  await expectAccessible(page);
});

test('what happens before the line of a page to the server is up reaches it all the same', async ({ page }) => {
  let letOpen: () => void = () => undefined;
  const isOver = new Promise<void>((resolve) => (letOpen = resolve));
  await page.route('**/api/events', async (route) => {
    await isOver;
    await route.continue();
  });
  await page.goto(server.address);
  const row = page.getByRole('row', { name: /loose.mov/ });
  await expect(row).toBeVisible();
  const programme = `${server.address}/api/programmes/${await idOf('loose.mov')}`;
  expect((await page.request.delete(programme)).ok()).toBe(true);
  letOpen();
  await expect(row).toHaveCount(0);
  expect((await page.request.post(`${programme}/restore`)).ok()).toBe(true);
  await expect(row).toBeVisible();
});

test('a master that moved is noticed, and pointed to again', async ({ page }) => {
  await page.goto(server.address);
  const row = page.getByRole('row', { name: /loose.mov/ });
  await expect(row).toBeVisible();
  renameSync(inMedia('loose.mov'), inMedia('season/loose.mov'));
  await expect(row).toContainText('the master is missing', {
    timeout: 15_000,
  });
  await page.getByRole('link', { name: 'loose.mov' }).click();
  const gone = page.getByTestId('master-gone');
  await expect(gone).toContainText('no longer where it was');
  await expect(page.getByRole('button', { name: /Queue it/ })).toBeDisabled();
  await gone.getByLabel('Path of the master').fill(inMedia('season/loose.mov'));
  await gone.getByRole('button', { name: 'It is here now' }).click();
  await expect(gone).toHaveCount(0);
});
