import path from 'node:path';
import { captionTracks } from '../../core/captions/captionTracks.ts';
import { captionsOf } from '../../core/picture/chain.ts';
import { pictureOf, type EncodePlan } from '../../core/plan/encodePlan.ts';
import { createDiskCache } from '../cache/diskCache.ts';
import type { Context } from '../context.ts';
import { identityOf, withMaster } from '../programmes/masters.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { readDrawnCaptions } from './drawnCaptions.ts';

const CACHE_LIMIT_BYTES = 50_000_000;

/**
 * The captions that a plan has drawn in, for whoever looks at a moment of it: those inside a master are kept, since it is read through once
 * for them; those beside it are read as they are now.
 *
 * @returns null where none are drawn.
 * @throws As `readDrawnCaptions`.
 */
export async function findScript(
  context: Context,
  programme: ProgrammeRow,
  plan: EncodePlan,
  signal: AbortSignal,
): Promise<string | null> {
  const picture = pictureOf(plan);
  const step = picture && captionsOf(picture.chain);
  if (!picture || !step) return null;
  const { engine, config } = context;
  const read = (source: string, asker: AbortSignal) =>
    readDrawnCaptions(engine, config.applicationFolder, { ...programme, source }, plan, asker);
  const track = captionTracks(programme.facts)[step.number];
  if (!track || !('stream' in track.from)) return read(programme.path, signal);
  const cache = createDiskCache(
    path.join(config.dataFolder, 'cache', 'captions'),
    'ass',
    CACHE_LIMIT_BYTES,
    context.now,
  );
  const key = [
    programme.path,
    programme.modified_at,
    programme.facts.bytes,
    step.number,
    plan.span,
    picture.out.colour,
  ];
  const script = await cache.get(
    key,
    async (asker) => Buffer.from((await withMaster(identityOf(programme), (source) => read(source, asker))) ?? ''),
    signal,
  );
  return script.toString('utf8');
}
