import type { CutsView } from '../../contract/views.ts';
import { cutFrames } from '../../engine/parsing/packets.ts';
import * as statements from '../../store/statements/programmes.ts';
import type { Context } from '../context.ts';
import { isEngineError } from '../../engine/engineError.ts';
import { Refusal } from '../refusal.ts';
import { identityOf, withMaster } from './masters.ts';
import type { ProgrammeRow } from './programmes.ts';
import { createTurns } from '../turns.ts';

/**
 * The frames at which a copy of a master may begin. They are found by reading its packets once, when they are first
 * asked for: most masters are never copied in part.
 *
 * @throws Refusal when the master went away or changed, or cannot be read.
 */
export async function findCuts(context: Context, programme: ProgrammeRow, signal?: AbortSignal): Promise<CutsView> {
  return reading.take(() => readCuts(context, programme, signal), signal);
}

/** One master at a time, so that who asks for the same finds it read. */
const reading = createTurns(1);

async function readCuts(context: Context, programme: ProgrammeRow, signal?: AbortSignal): Promise<CutsView> {
  const { id, facts } = programme;
  const [row] = await context.database.query<{ cuts: Uint8Array | null }>(statements.READ_CUTS, [id]);
  if (row?.cuts) return { frames: unpack(row.cuts) };
  if (!facts.video) return { frames: [] };
  const stream = facts.video.index;
  const frames = await withMaster(identityOf(programme), async (path) => {
    const tally = (await context.engine.inspect(path, signal)).tallies.get(stream);
    return tally ? cutFrames(tally) : [];
  }).catch((error: unknown) => {
    if (!isEngineError(error) || error.code === 'stopped') throw error;
    throw new Refusal('file-unreadable', `Where this master’s keyframes lie could not be read: ${error.message}`);
  });
  await context.database.query(statements.SAVE_CUTS, [id, pack(frames)]);
  return { frames };
}

/** As 32-bit numbers, little end first. */
function pack(frames: readonly number[]): Uint8Array {
  const packed = Buffer.alloc(frames.length * 4);
  frames.forEach((frame, index) => packed.writeUInt32LE(frame, index * 4));
  return packed;
}

function unpack(packed: Uint8Array): number[] {
  const buffer = Buffer.from(packed);
  return Array.from({ length: buffer.length / 4 }, (_, index) => buffer.readUInt32LE(index * 4));
}
