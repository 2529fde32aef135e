import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pino } from 'pino';
import { startApplication } from '../src/server/application.ts';
import { resolveConfig } from '../src/server/config.ts';
import { takeIn } from '../src/server/programmes/programmes.ts';
import { STARTING_RECIPE } from '../src/core/rate/recipe.ts';
import { getRendition } from '../src/server/renditions/renditions.ts';
const folder = await mkdtemp(path.join(tmpdir(), 'fill-'));
const config = resolveConfig({ LINSTOCK_DATA: path.join(folder, 'data'), LINSTOCK_MEDIA: '/srv/linstock/masters', LINSTOCK_OUTPUT: path.join(folder, 'out') }, process.cwd());
const app = await startApplication(config, { logger: pino({ level: 'silent' }) });
const [codec, heights, shares, ...names] = process.argv.slice(2);
for (const name of names) {
  const p = await takeIn(app.context, `/srv/linstock/masters/${name}.mov`);
  for (const height of heights!.split(',').map(Number)) for (const share of shares!.split(',').map(Number)) {
    const bytes = Math.round((3_000_000 * p.durationSeconds * share) / 8);
    const recipe = { ...STARTING_RECIPE, video: { codec, rate: { mode: 'size', bytes }, effort: 'fast' }, picture: { fit: { height } }, audio: STARTING_RECIPE.audio && { ...STARTING_RECIPE.audio, channels: 'mono', kbps: 48 } };
    const ended = new Promise<void>((resolve) => { const un = app.context.events.subscribe((e) => { if (e.type === 'rendition' && ['done', 'failed', 'stopped'].includes(e.rendition.state)) { un(); resolve(); } }); });
    const { id } = await app.order({ programmeId: p.id, recipe: recipe as never, portion: null, name: null, keepFailed: false });
    await ended;
    const r = await getRendition(app.context, id);
    console.log(name.slice(0, 6), codec, height, bytes, r.state, r.fill?.outcome, r.fill?.joinedFrom, r.state==="failed" ? r.problem?.message : "", r.checks.filter((c) => !c.ok).length, r.bytes ? (100 * r.bytes / bytes).toFixed(2) : '-', (r.fill?.secondPasses ?? []).map((q) => `${q.kbps.toFixed(0)}→${(100 * q.bytes / bytes).toFixed(2)}(q${q.meanQuantiser?.toFixed(1)})`).join(' '));
  }
}
await app.stop(); await rm(folder, { recursive: true, force: true }); process.exit(0);
