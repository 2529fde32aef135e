import { mkdirSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import type { AnalysisView, RenditionView } from '../../src/contract/views.ts';
import { seededRandom } from '../../src/testing/seededRandom.ts';
import { drawMaster } from '../../tests/support/footage.ts';
import { startPostgres } from '../../tests/support/postgres.ts';
import { enginesIn, makeFolders, startServer, type TestServer } from '../../tests/support/server.ts';
import { pause } from './timing.ts';

const KILLS = 12;
const PROGRAMMES = 10;
const FILES = 20;
const RECIPE = { video: { codec: 'hevc', effort: 'fast', rate: { mode: 'quality', value: 24 } }, audio: null };

/**
 * Two servers on one PostgreSQL, now one and now the other killed at random moments, with twenty renditions and ten analyses before them:
 * each done once. Wants a build, and PostgreSQL.
 */
export async function benchSharedKills(): Promise<void> {
  console.log(`\n${KILLS} kills of two servers on one database, ${FILES} renditions and ${PROGRAMMES} analyses`);
  const random = seededRandom(12);
  const folders = makeFolders();
  mkdirSync(folders.media, { recursive: true });
  const postgres = await startPostgres();
  const start = (name: string) =>
    startServer({ ...folders, data: path.join(folders.root, name) }, { LINSTOCK_DATABASE_URL: postgres.url });
  const servers: Record<'one' | 'other', TestServer> = { one: await start('one'), other: await start('other') };
  const programmes: string[] = [];
  const renditions: string[] = [];
  for (let index = 0; index < PROGRAMMES; index += 1) {
    const file = path.join(folders.media, `${index + 1}.mov`);
    drawMaster(file, { seconds: 6, size: '640x360', grain: 8 });
    programmes.push((await servers.one.takeIn(file)).id);
  }
  for (let index = 0; index < FILES; index += 1) {
    const order = { programmeId: programmes[index % PROGRAMMES], recipe: RECIPE };
    renditions.push((await servers.one.call<RenditionView>('POST', 'renditions', order)).body.id);
  }
  let left = 0;
  for (let kills = 0; kills < KILLS; kills += 1) {
    await pause(random() * 8000);
    const name = random() < 0.5 ? 'one' : 'other';
    await servers[name].end('SIGKILL');
    await pause(300);
    left += enginesIn(path.join(folders.root, name)).length;
    servers[name] = await start(name);
  }
  const made: RenditionView[] = [];
  for (const id of renditions) made.push(await servers.one.waitFor(id));
  const analyses: string[] = [];
  for (const id of programmes) {
    const stateOf = async () => (await servers.other.call<AnalysisView>('GET', `programmes/${id}/analysis`)).body.state;
    while (!['done', 'failed'].includes(await stateOf())) await pause(500);
    analyses.push(await stateOf());
  }
  const files = readdirSync(folders.output);
  const whole = made.filter((one) => one.state === 'done' && statSync(one.path).size === one.bytes).length;
  const done = analyses.filter((state) => state === 'done').length;
  console.log(
    `${made.length} renditions: ${whole} done and as recorded, ${files.length} files in the folder; ${analyses.length} analyses: ${done} done; ${left} encoders left`,
  );
  await Promise.all([servers.one.end('SIGTERM'), servers.other.end('SIGTERM')]);
  await postgres.stop();
}
