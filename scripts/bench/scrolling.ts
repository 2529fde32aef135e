import { mkdirSync } from 'node:fs';
import path from 'node:path';
import type { Page } from '@playwright/test';
import type { RenditionView } from '../../src/contract/views.ts';
import { openServer } from '../../src/store/openServer.ts';
import { drawMaster } from '../../tests/support/footage.ts';
import { startPostgres } from '../../tests/support/postgres.ts';
import { makeFolders, startServer } from '../../tests/support/server.ts';
import { copyRendition, MADE, WAITING } from './ledgerRows.ts';
import { LASTING_MS, openBrowser, printFrames, recordFrames } from './pageFrames.ts';

/** Scrolls a full ledger and a full queue in a browser, and tells how long frames of the page took. Wants a build. */
export async function benchScrolling(): Promise<void> {
  console.log(`\nScrolled: ${MADE} renditions in the ledger, ${WAITING} waiting`);
  const folders = makeFolders();
  mkdirSync(folders.media, { recursive: true });
  const master = drawMaster(path.join(folders.media, 'short.mov'), { seconds: 1, size: '320x180' });
  const postgres = await startPostgres();
  const server = await startServer(folders, { LINSTOCK_DATABASE_URL: postgres.url });
  const browser = await openBrowser();
  const database = openServer(postgres.url);
  try {
    const { id: programmeId } = await server.takeIn(master);
    const recipe = { video: { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: 40 } }, audio: null };
    const asked = await server.call<RenditionView>('POST', 'renditions', { programmeId, recipe });
    await server.waitFor(asked.body.id);
    await server.call('PATCH', 'queue', { paused: true });
    await copyRendition(database.query, asked.body.id, { made: MADE, waiting: WAITING });
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    for (const place of ['ledger', 'queue']) {
      await page.goto(`${server.address}/${place}`);
      await page.getByText('short').first().waitFor();
      await page.mouse.move(640, 500);
      printFrames(`the ${place}, from one frame to the next`, await scroll(page));
    }
  } finally {
    await browser.close();
    await server.end('SIGTERM');
    await database.close();
    await postgres.stop();
  }
}

/** Down, without a pause. */
async function scroll(page: Page): Promise<number[]> {
  const intervals = recordFrames(page);
  const began = performance.now();
  while (performance.now() - began < LASTING_MS) {
    await page.mouse.wheel(0, 400);
    await page.waitForTimeout(16);
  }
  return intervals;
}
