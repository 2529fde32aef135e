import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { expect, test } from '@playwright/test';
import type { BatchSummary } from '../../src/contract/batch.ts';
import type { RecipeItem } from '../../src/contract/shelf.ts';
import type { WorkingOrderView } from '../../src/contract/views.ts';
import { draw, drawMaster } from '../support/footage.ts';
import { makeFolders, startServer, type TestServer } from '../support/server.ts';
import { expectAccessible } from './accessible.ts';

const folders = makeFolders();
let server: TestServer;

test.describe.configure({ mode: 'serial' });

test.beforeAll(async () => {
  mkdirSync(folders.media, { recursive: true });
  const inMedia = (name: string) => path.join(folders.media, name);
  drawMaster(inMedia('One.mov'), { seconds: 2, size: '320x180' });
  drawMaster(inMedia('Two.mov'), { seconds: 2, size: '320x180' });
  draw(inMedia('Guide.wav'), ['-f', 'lavfi', '-i', 'sine=frequency=300:sample_rate=48000:duration=2']);
  server = await startServer(folders);
  for (const name of ['One.mov', 'Two.mov', 'Guide.wav']) await server.takeIn(inMedia(name));
});
test.afterAll(() => server.end('SIGTERM'));

test('an order is saved as a recipe, and tells what was changed of it', async ({ page }) => {
  await page.goto(server.address);
  await page.getByRole('link', { name: 'One.mov' }).click();
  const bar = page.getByTestId('recipe-bar');
  await bar.getByRole('button', { name: /^Recipe:/ }).click();
  await page.getByRole('radio', { name: /Quick review/ }).click();
  await expect(page.getByTestId('order-line')).toContainText('at constant quality 28');
  await expect(page.getByTestId('recipe-changes')).toHaveCount(0);
  await page.getByTestId('order-line').getByRole('button', { name: /: 28$/ }).click();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('34');
  await page.keyboard.press('Enter');
  await expect(page.getByTestId('recipe-changes')).toHaveText(', with 1 change: rate');
  await bar.getByRole('button', { name: /Save the order/ }).click();
  await page.getByLabel('Name of the recipe').fill('Tiny review');
  await page.keyboard.press('Enter');
  await expect(bar).toContainText('By Tiny review');
  await expect(page.getByTestId('recipe-changes')).toHaveCount(0);
  const saved = (await server.call<RecipeItem[]>('GET', 'recipes')).body.find(({ name }) => name === 'Tiny review');
  expect(saved?.recipe.video).toMatchObject({ rate: { mode: 'quality', value: 34 } });
  await expectAccessible(page);
});

test('an order stays for its receiver, shows its limits, and says what is against them', async ({ page }) => {
  await page.goto(server.address);
  await page.getByRole('link', { name: 'Two.mov' }).click();
  const bar = page.getByTestId('recipe-bar');
  await bar.getByRole('button', { name: /^Bend to a brief/ }).click();
  await page.getByRole('radio', { name: /Chat attachment/ }).click();
  await expect(page.getByTestId('brief-standing')).toContainText('The file is checked against it.');
  await expect(page.getByTestId('budget')).toContainText('The receiver’s largest file: 10.0 MB');
  const line = page.getByTestId('order-line');
  await line.getByRole('button', { name: /^Codec of the picture/ }).click();
  await page.getByRole('radio', { name: /^HEVC/ }).click();
  await expect(page.getByTestId('brief-standing')).toContainText('Not as it asks: picture codec.');
  const kept = `programmes/${page.url().split('/').at(-1)}/order`;
  const codec = async () => (await server.call<WorkingOrderView>('GET', kept)).body.recipe?.video?.codec;
  await expect.poll(codec).toBe('hevc');
  await page.reload();
  await expect(page.getByTestId('brief-standing')).toContainText('Not as it asks: picture codec.');
  await bar.getByRole('button', { name: 'Bend it' }).click();
  await expect(page.getByTestId('brief-standing')).toContainText('The file is checked against it.');
  await expectAccessible(page);
  await bar.getByRole('button', { name: /^Bend to a brief/ }).click();
  await page.getByRole('radio', { name: /nobody in particular/ }).click();
  await expect(page.getByTestId('brief-standing')).toHaveCount(0);
  await expect(page.getByTestId('budget')).not.toContainText('The receiver’s');
});

test('many are chosen, foreseen, mended, queued, and counted back', async ({ page }) => {
  await page.goto(server.address);
  await page.getByRole('button', { name: 'Choose all 3' }).click();
  await expect(page.getByTestId('chosen')).toHaveText('3 programmes chosen');
  await expectAccessible(page);
  await page.keyboard.press('r');
  await expect(page.getByRole('heading', { name: 'A new batch' })).toBeVisible();
  await page.getByRole('button', { name: /^Which:/ }).click();
  const listed = page.getByRole('group', { name: 'Recipes' });
  await listed.getByRole('checkbox', { name: /Web 720/ }).uncheck();
  await listed.getByRole('checkbox', { name: /Tiny review/ }).check();
  await page.keyboard.press('Escape');
  const rows = page.getByTestId('planned-row');
  await expect(rows).toHaveCount(3);
  // What is shown while another answer is underway is of the recipe before.
  await expect(rows.first()).toContainText('Tiny review');
  await expect(rows.first()).toContainText('This programme has sound only');
  await expect(page.getByTestId('batch-files')).toHaveText('2 files');
  await rows.first().getByRole('button', { name: 'Make its sound alone' }).click();
  await expect(page.getByTestId('batch-files')).toHaveText('3 files');
  await page.getByRole('checkbox', { name: 'Make Tiny review of Two.mov' }).uncheck();
  await expect(page.getByTestId('batch-files')).toHaveText('2 files');
  await expectAccessible(page);
  await page.getByRole('button', { name: /Queue them/ }).click();
  const account = page.getByTestId('account');
  await expect(account).toHaveText('3 asked = 2 made + 0 failed + 0 stopped + 1 left out', { timeout: 60_000 });
  await expect(page.getByTestId('batch-row').filter({ hasText: 'Two.mov' })).toContainText('Left out by hand.');
  await expectAccessible(page);
  // What was left out by hand is nothing that went wrong: it is asked for by itself.
  await expect(page.getByRole('button', { name: /^Try the/ })).toHaveCount(0);
  await page.getByRole('button', { name: /^Try it again: Two.mov/ }).click();
  await expect(account).toHaveText('3 asked = 3 made + 0 failed + 0 stopped + 0 left out', { timeout: 60_000 });
});

test('the queue is paused, put in another order by keys, and let go on', async ({ page }) => {
  await page.goto(`${server.address}/queue`);
  await page.getByRole('button', { name: /Pause everything/ }).click();
  await expect(page.getByTestId('queue-controls')).toContainText('Everything stands still.');
  const [batch] = (await server.call<BatchSummary[]>('GET', 'batches')).body;
  expect(batch).toMatchObject({ asked: 3, made: 3 });
  const ids = (await server.programmes()).filter(({ video }) => video).map(({ id }) => id);
  for (const programmeId of ids) {
    const recipe = { video: { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: 40 } }, audio: null };
    await server.call('POST', 'renditions', { programmeId, recipe });
  }
  const waiting = page.getByTestId('waiting');
  await expect(waiting).toHaveCount(2);
  await expect(waiting.first()).toContainText('One');
  // While it is stopped nobody knows by when it is done.
  await expect(page.getByTestId('queue-left')).toHaveText(/^Left: [\d.]+ s\.$/);
  await waiting
    .nth(1)
    .getByRole('button', { name: /to the front/ })
    .click();
  await expect(waiting.first()).toContainText('Two');
  // A batch goes as a whole, and comes back.
  await server.call('POST', 'batches', { programmeIds: ids, recipes: ['stock-web-480'], name: 'By mistake' });
  await expect(waiting).toHaveCount(4);
  await expect(page.getByTestId('running-summary')).toHaveText('Paused · 4 waiting');
  await page.getByRole('button', { name: 'Stop this batch' }).click();
  await expect(waiting).toHaveCount(2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(waiting).toHaveCount(4);
  const toFront = page.getByRole('button', { name: 'To the front', exact: true });
  await toFront.click();
  await expect(toFront).toHaveCount(0);
  await expectAccessible(page);
  await page.getByRole('link', { name: 'By mistake' }).first().click();
  await page.getByRole('button', { name: 'Stop the 2 to come' }).click();
  await expect(page.getByTestId('account')).toHaveText('2 asked = 0 made + 0 failed + 2 stopped + 0 left out');
  await expect(page.getByTestId('running-summary')).toHaveText('Paused · 2 waiting');
  await page.goto(`${server.address}/queue`);
  await expect(waiting).toHaveCount(2);
  await page.keyboard.press('p');
  await expect(waiting).toHaveCount(0, { timeout: 60_000 });
});

test('the ledger finds what was made, renames and deletes it', async ({ page }) => {
  await page.goto(`${server.address}/ledger`);
  const rows = page.getByTestId('ledger-row');
  await expect(rows).toHaveCount(9);
  await page.getByLabel('Find in the ledger').fill('tiny');
  await expect(rows).toHaveCount(3);
  await page.getByLabel('Find in the ledger').fill('two tiny');
  await expect(rows).toHaveCount(1);
  await rows.getByRole('button', { name: /^Rename/ }).click();
  await page.getByLabel('File name').fill('The second');
  await page.getByRole('button', { name: 'Rename it' }).click();
  await page.getByLabel('Find in the ledger').fill('the second');
  await expect(rows).toContainText('The second.mp4');
  await expectAccessible(page);
  await rows.getByRole('button', { name: /^Delete/ }).click();
  await expect(page.getByRole('dialog')).toContainText('goes for good');
  await page.getByRole('button', { name: 'Delete it' }).click();
  await expect(rows).toContainText('no file is kept');
});

test('files that are dropped on a recipe’s place are made and handed back', async ({ page }) => {
  await page.goto(`${server.address}/recipes`);
  await expectAccessible(page);
  await page
    .getByTestId('shelf-row')
    .filter({ hasText: 'Tiny review' })
    .getByRole('link', { name: 'Drop-on place' })
    .click();
  await expect(page.getByRole('heading', { name: 'Tiny review' })).toBeVisible();
  const boxed = 'testsrc2=size=320x132:rate=25:duration=1,pad=320:180:0:24';
  const dropped = path.join(folders.root, 'Dropped.mov');
  draw(dropped, ['-f', 'lavfi', '-i', boxed, '-c:v', 'mjpeg', '-q:v', '2']);
  await page.getByLabel('Files to make something of').setInputFiles(dropped);
  const back = page.getByTestId('handed-back').getByRole('link');
  await expect(back).toBeVisible({ timeout: 60_000 });
  await expect(page.getByTestId('still-in-it').filter({ hasText: 'Black bars' })).toHaveCount(1);
  const [file] = await Promise.all([page.waitForEvent('download'), back.click()]);
  expect(file.suggestedFilename()).toMatch(/^Dropped .*\.mp4$/);
});

test('all are made equally good, by trials of each', async ({ page }) => {
  await page.goto(server.address);
  await page.getByRole('checkbox', { name: /One\.mov/ }).check();
  await page.getByRole('checkbox', { name: /Two\.mov/ }).check();
  await page.keyboard.press('r');
  const together = page.getByLabel('All of them together');
  await together.fill('twelve');
  await expect(page.getByText('Type a size, such as 500 MB, or how good each is to be, such as 15 dB.')).toBeVisible();
  await together.fill('12 dB');
  await together.press('Enter');
  await expect(page.getByTestId('together')).toContainText('How good 2 files come out is not measured yet');
  await expect(page.getByRole('button', { name: /Queue them/ })).toBeDisabled();
  await page.getByRole('button', { name: 'Measure the 2' }).click();
  await expect(page.getByTestId('together')).toContainText('in all, each no worse than 12 dB', { timeout: 90_000 });
  await expect(page.getByRole('button', { name: /Queue them/ })).toBeEnabled();
  await expect(page.getByTestId('planned-row').first()).toContainText('at constant quality');
  await expectAccessible(page);
});

test('what is wrong with several is mended in one stroke, and one is changed by its order line', async ({ page }) => {
  for (const name of ['Boxed one.mov', 'Boxed two.mov']) {
    const size = name.includes('one') ? '320x132' : '320x140';
    const pad = `testsrc2=size=${size}:rate=25:duration=1,pad=320:180:0:(oh-ih)/2`;
    const file = draw(path.join(folders.media, name), ['-f', 'lavfi', '-i', pad, '-c:v', 'mjpeg', '-q:v', '2']);
    await server.takeIn(file);
  }
  await page.goto(server.address);
  await page.getByRole('checkbox', { name: /Boxed one/ }).check();
  await page.getByRole('checkbox', { name: /Boxed two/ }).check();
  await page.keyboard.press('r');
  await expect(page.getByTestId('batch-files')).toHaveText('2 files');
  // They are looked at meanwhile.
  await expect(page.getByTestId('not-looked-at')).toHaveCount(0, { timeout: 30_000 });
  const group = page.getByTestId('advice-group').filter({ hasText: 'Black bars are part of the picture' });
  await expect(group).toContainText('2 files');
  await expectAccessible(page);
  const changed = page.getByTestId('own-changes');
  await group.getByRole('button', { name: 'Crop the bars off, in all 2' }).click();
  await expect(changed).toHaveText([/Changed for this file: crop/, /Changed for this file: crop/]);
  await expect(group).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(changed).toHaveCount(0);
  await expect(group).toHaveCount(1);
  await page.keyboard.press('Control+Shift+z');
  await expect(changed).toHaveCount(2);
  // Another recipe begins anew; what was done before it comes back with it.
  await page.getByRole('button', { name: /^Which:/ }).click();
  await page.getByRole('checkbox', { name: /Web 480/ }).check();
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('planned-row')).toHaveCount(4);
  await expect(changed).toHaveCount(0);
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('planned-row')).toHaveCount(2);
  await expect(changed).toHaveCount(2);
  const two = page.getByTestId('planned-row').filter({ hasText: 'Boxed two.mov' });
  await two.getByRole('button', { name: 'Change Web 720 of Boxed two.mov' }).click();
  const own = page.getByTestId('row-order');
  await own.getByRole('button', { name: /^Codec of the picture/ }).click();
  await page.getByRole('radio', { name: /^HEVC/ }).click();
  await expect(two).toContainText('HEVC');
  await expect(two.getByTestId('own-changes')).toContainText('picture codec, rate and crop');
  await expectAccessible(page);
  await two.getByRole('button', { name: /^Done with/ }).click();
  await expect(own).toHaveCount(0);
  await page.getByRole('button', { name: /Queue them/ }).click();
  const account = page.getByTestId('account');
  await expect(account).toHaveText('2 asked = 2 made + 0 failed + 0 stopped + 0 left out', { timeout: 60_000 });
  await expect(page.getByTestId('batch-row').filter({ hasText: 'Boxed two.mov' })).toContainText('HEVC');
  await expect(page.getByTestId('batch-row').filter({ hasText: 'Boxed one.mov' })).toContainText('H.264');
});
