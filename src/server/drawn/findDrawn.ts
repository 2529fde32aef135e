import path from 'node:path';
import { markOf, type PictureStep } from '../../core/picture/chain.ts';
import { pictureOf, type EncodePlan } from '../../core/plan/encodePlan.ts';
import { createDiskCache } from '../cache/diskCache.ts';
import type { Context } from '../context.ts';
import { identityOf, withMaster } from '../programmes/masters.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { drawnTrack, readMark, writeCaptions, type Drawn } from './readDrawn.ts';

const CACHE_LIMIT_BYTES = 50_000_000;

/**
 * What a plan has drawn into its picture, for whoever looks at a moment of it. Captions inside a master are kept, since it is read through
 * once for them; those beside it are read as they are now.
 *
 * @param chain - What frames go through: without its mark, nothing is asked of that.
 * @throws As `readDrawn`.
 */
export async function findDrawn(
  context: Context,
  programme: ProgrammeRow,
  plan: EncodePlan,
  chain: readonly PictureStep[],
  signal: AbortSignal,
): Promise<Drawn> {
  return {
    captions: await findCaptions(context, programme, plan, signal),
    mark: markOf(chain) && (await readMark(context.config, plan)),
  };
}

async function findCaptions(
  { engine, config, now }: Context,
  programme: ProgrammeRow,
  plan: EncodePlan,
  signal: AbortSignal,
): Promise<string | null> {
  const drawn = drawnTrack(programme.facts, plan);
  if (!drawn) return null;
  const read = (source: string, asker: AbortSignal) =>
    writeCaptions(engine, config, { ...programme, source }, { plan, ...drawn }, asker);
  if (!('stream' in drawn.track.from)) return read(programme.path, signal);
  const cache = createDiskCache(path.join(config.dataFolder, 'cache', 'captions'), 'ass', CACHE_LIMIT_BYTES, now);
  const { path: file, facts, modified_at: modifiedAt } = programme;
  const script = await cache.get(
    [file, modifiedAt, facts.bytes, drawn.step, plan.span, pictureOf(plan)?.out.colour],
    async (asker) => Buffer.from(await withMaster(identityOf(programme), (source) => read(source, asker))),
    signal,
  );
  return script.toString('utf8');
}
