/** Draws the pictures of docs/screenshots/ from a running demonstration: ./linstock demo, then npm run screenshots. */
import { chromium, type Page } from '@playwright/test';
import type { BatchSummary, BatchView } from '../src/contract/batch.ts';
import type { RecipeItem } from '../src/contract/shelf.ts';
import type { TrialView } from '../src/contract/trial.ts';
import type { ListPage, ProgrammeSummary, RenditionPage } from '../src/contract/views.ts';

const ADDRESS = `http://127.0.0.1:${process.env['LINSTOCK_PORT'] ?? '4664'}`;
const FOLDER = 'docs/screenshots';

const programmes = (await get<ListPage<ProgrammeSummary>>('programmes')).rows;
const flight = programmes.find((programme) => programme.name.startsWith('Ridge'));
const talk = programmes.find((programme) => programme.name.startsWith('Talk'));
const dusk = programmes.find((programme) => programme.name.startsWith('The Long Dusk'));
const trailer = programmes.find((programme) => programme.name.startsWith('Season trailer'));
if (!flight || !talk || !dusk || !trailer)
  throw new Error('The demonstration is not there; start it with ./linstock demo.');
await makeRenditions(flight.id);
const renditions = (await get<RenditionPage>(`renditions?programmeId=${flight.id}`)).rows.filter(
  (one) => one.state === 'done',
);
const smallest = renditions.toSorted((a, b) => (a.bytes ?? 0) - (b.bytes ?? 0))[0];

const browser = await chromium.launch({
  executablePath: process.env['CHROMIUM'] ?? '/usr/bin/chromium',
  args: ['--no-sandbox', '--disable-dev-shm-usage', '--disable-background-networking', '--disable-component-update'],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await take(page, '/', 'programmes');
await take(page, '/', 'add', async () => {
  await page.keyboard.press('a');
  await page.getByRole('dialog').getByRole('listitem').first().getByRole('button').click();
  await page.getByRole('checkbox', { name: 'Folders inside folders too' }).check();
});
await take(page, `/programmes/${talk.id}`, 'programme', async () => {
  await page.getByTestId('strips-drawing').click({ position: { x: 420, y: 20 } });
});
await take(page, `/programmes/${talk.id}`, 'order', async () => {
  await applyOnce('Trim the black and silence at both ends');
  await fillSize();
  await page.getByRole('heading', { name: 'Portion' }).evaluate((element) => element.scrollIntoView());
});
await take(page, `/programmes/${trailer.id}`, 'fine-control', async () => {
  await applyOnce('Crop the bars off');
  await page.getByText('Fine control').click();
  await page.getByTestId('expected').filter({ hasNotText: 'unknown' }).waitFor({ timeout: 120_000 });
  await page.getByRole('heading', { name: 'A new rendition' }).evaluate((element) => element.scrollIntoView());
});
await take(page, `/programmes/${dusk.id}`, 'facts', async () => {
  await page.getByText('All facts').click();
});
await take(page, `/programmes/${flight.id}`, 'renditions', async () => {
  await page.getByRole('heading', { name: 'Master and renditions' }).evaluate((element) => element.scrollIntoView());
});
await take(page, `/programmes/${flight.id}`, 'numbers', async () => {
  await page
    .getByRole('button', { name: /^Checks of/ })
    .first()
    .click();
  await page.getByTestId('numbers').evaluate((element) => element.scrollIntoView({ block: 'center' }));
});
await take(page, `/desk/${smallest?.id}`, 'desk');
await tryOnce(dusk.id);
await take(page, `/programmes/${dusk.id}`, 'scale', async () => {
  await page.getByTestId('tried-scale').waitFor();
  await page.getByTestId('excerpts').evaluate((element) => element.scrollIntoView());
});
await order(flight.id, { mode: 'average', kbps: 2500, passes: 2 }, 720);
await take(page, '/queue', 'queue');
await take(page, '/', 'new-batch', async () => {
  await page.getByRole('button', { name: /^Choose all/ }).click();
  await page.keyboard.press('r');
  await page.getByRole('button', { name: /^Which:/ }).click();
  for (const name of [/Web 1080/, /Web 480/]) await page.getByRole('checkbox', { name }).check();
  await page.keyboard.press('Escape');
  await page.getByTestId('advice-group').first().waitFor();
});
await take(page, `/batches/${await makeBatch()}`, 'batch');
await take(page, '/ledger', 'ledger');
await take(page, '/recipes', 'recipes');
await take(page, '/settings', 'settings');
await page.evaluate(() => localStorage.setItem('theme', 'dark'));
await take(page, `/programmes/${dusk.id}`, 'programme-dark');
await browser.close();

/** What a trial of the whole grid draws; one that is there already does. */
async function tryOnce(programmeId: string): Promise<void> {
  const trials = () => get<TrialView[]>(`programmes/${programmeId}/trials`);
  if ((await trials()).length === 0) {
    const recipe = (await get<RecipeItem[]>('recipes')).find(({ id }) => id === 'stock-web-720')?.recipe;
    const body = JSON.stringify({ programmeId, recipe });
    await fetch(`${ADDRESS}/api/trials`, { method: 'POST', body, headers: { 'content-type': 'application/json' } });
  }
  while ((await trials())[0]?.state !== 'done') await page.waitForTimeout(500);
}

/** Everything there is, small and quick, and what became of it. */
async function makeBatch(): Promise<string> {
  const recipe = {
    name: 'Small and quick',
    video: { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: 32 } },
    picture: { fit: { height: 180 } },
    audio: { codec: 'aac', kbps: 64 },
  };
  const known = (await get<BatchSummary[]>('batches')).find(({ name }) => name === 'The season, small');
  const id =
    known?.id ??
    (await ask({ name: 'The season, small', programmeIds: programmes.map((one) => one.id), recipes: [recipe] }));
  while ((await get<BatchView>(`batches/${id}`)).state === 'running') {
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
  return id;
}

async function ask(batch: object): Promise<string> {
  const answer = await fetch(`${ADDRESS}/api/batches`, { method: 'POST', body: JSON.stringify(batch) });
  return ((await answer.json()) as { id: string }).id;
}

async function take(view: Page, path: string, name: string, prepare?: () => Promise<void>): Promise<void> {
  await view.goto(`${ADDRESS}${path}`);
  await view.waitForTimeout(2500);
  await prepare?.();
  await view.waitForTimeout(1000);
  await view.evaluate(moveHome, [process.cwd(), '/srv/linstock'] as const);
  await view.screenshot({ path: `${FOLDER}/${name}.png` });
}

/** Orders are kept, so at a second run the fix is applied already. */
async function applyOnce(fix: string): Promise<void> {
  const key = page.getByRole('button', { name: fix });
  if ((await key.count()) > 0) await key.click();
}

async function fillSize(): Promise<void> {
  await page.getByRole('button', { name: /What is held to/ }).click();
  await page.getByRole('radio', { name: /A size to fill/ }).click();
  await page.getByRole('button', { name: /Size to fill/ }).click();
  await page.getByLabel('Whole file, at most').fill('2 MB');
  await page.getByTestId('expected').filter({ hasNotText: 'up to' }).waitFor({ timeout: 120_000 });
}

async function makeRenditions(programmeId: string): Promise<void> {
  if ((await get<RenditionPage>(`renditions?programmeId=${programmeId}`)).rows.length > 0) return;
  for (const bytes of [700_000, 1_400_000, 2_800_000]) {
    for (const height of [720, 360]) await order(programmeId, { mode: 'size', bytes }, height);
  }
  while (
    (await get<RenditionPage>('renditions')).rows.some((one) => ['queued', 'running', 'checking'].includes(one.state))
  ) {
    await new Promise((resolve) => setTimeout(resolve, 500));
  }
}

async function order(programmeId: string, rate: object, height: number): Promise<void> {
  const recipe = {
    video: { codec: 'h264', effort: 'fast', rate },
    picture: { fit: { height } },
    audio: { codec: 'aac', kbps: 96 },
  };
  await fetch(`${ADDRESS}/api/renditions`, { method: 'POST', body: JSON.stringify({ programmeId, recipe }) });
}

async function get<Body>(path: string): Promise<Body> {
  return (await (await fetch(`${ADDRESS}/api/${path}`)).json()) as Body;
}

/** Where the pictures happen to be drawn says nothing to whoever looks at them. */
function moveHome([from, to]: readonly [string, string]): void {
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    if (node.nodeValue?.includes(from)) node.nodeValue = node.nodeValue.replaceAll(from, to);
  }
  for (const field of document.querySelectorAll('input')) {
    if (field.value.includes(from)) field.value = field.value.replaceAll(from, to);
  }
}
