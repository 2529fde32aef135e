import { isUtf8 } from 'node:buffer';
import { readFile, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { fromWindows1252 } from '../../core/captions/windows1252.ts';
import { captionTracks, type CaptionTrack } from '../../core/captions/captionTracks.ts';
import { cutCues, readCues, writeCues } from '../../core/captions/cues.ts';
import type { EncodePlan, SourceSpan } from '../../core/plan/encodePlan.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import type { WrittenLabels } from '../../engine/arguments/labels.ts';
import type { Engine } from '../../engine/engine.ts';
import { Refusal } from '../refusal.ts';

/** A programme's master as far as its captions go. */
export interface CaptionedMaster {
  readonly facts: ProgrammeFacts;
  /** Where it lies, and files of captions beside it. */
  readonly path: string;
  /** Where it is read. */
  readonly source: string;
}

/**
 * Captions of a part of a programme, from its beginning, as WebVTT.
 *
 * @throws Refusal `file-not-there`, `captions-unreadable`; EngineError `captions-unreadable`.
 */
export async function readCaptions(
  engine: Engine,
  master: CaptionedMaster,
  track: CaptionTrack,
  { startSeconds, seconds }: SourceSpan,
  signal: AbortSignal,
): Promise<string> {
  const cues = readCues(await readTrack(engine, master, track, signal));
  // What lies inside goes by the clock of the file, on which the picture may begin later.
  const offset = 'stream' in track.from ? (master.facts.video?.startSeconds ?? 0) : 0;
  return writeCues(cutCues(cues, offset + startSeconds, seconds));
}

/**
 * What a result tells, its captions read and lying in a folder.
 *
 * @throws As `readCaptions`.
 */
export async function writeLabels(
  engine: Engine,
  master: CaptionedMaster,
  { labels, span }: EncodePlan,
  folder: string,
  signal: AbortSignal,
): Promise<WrittenLabels | null> {
  if (!labels) return null;
  const tracks = captionTracks(master.facts);
  const captionFiles: string[] = [];
  for (const { number } of labels.captions) {
    const track = tracks[number];
    if (!track)
      throw new Refusal('captions-unreadable', 'The master no longer has the captions that this was ordered with.');
    const file = path.join(folder, `captions-${number}.vtt`);
    await writeFile(file, await readCaptions(engine, master, track, span, signal));
    captionFiles.push(file);
  }
  return { ...labels, captionFiles };
}

/** In which captions of western languages were written before UTF-8 (common practice, no source). */
const OLD_ALPHABET = 'windows-1252';

/** It begins with a mark of its own, which the engine knows. */
function isUtf16(bytes: Uint8Array): boolean {
  return (bytes[0] === 0xff && bytes[1] === 0xfe) || (bytes[0] === 0xfe && bytes[1] === 0xff);
}

/** A day of captions is a few megabytes. */
const MOST_BYTES = 50_000_000;

async function readTrack(
  engine: Engine,
  { path: master, source }: CaptionedMaster,
  { from }: CaptionTrack,
  signal: AbortSignal,
): Promise<string> {
  if ('stream' in from) return engine.captions({ path: source, stream: from.stream }, signal);
  const beside = path.join(path.dirname(master), from.file);
  const about = await stat(/* turbopackIgnore: true */ beside).catch(() => null);
  if (!about?.isFile()) {
    throw new Refusal(
      'file-not-there',
      `${from.file} is no longer beside the master; put it back, or look at the master again.`,
    );
  }
  if (about.size > MOST_BYTES) {
    throw new Refusal('captions-unreadable', `${from.file} is far larger than captions are; look at what is in it.`);
  }
  const bytes = await readFile(/* turbopackIgnore: true */ beside);
  const isOld = !isUtf8(bytes) && !isUtf16(bytes);
  // What is WebVTT already keeps where it is shown, which the engine forgets.
  if (from.file.toLowerCase().endsWith('.vtt')) {
    return isOld ? fromWindows1252(bytes.toString('latin1')) : bytes.toString('utf8');
  }
  return engine.captions({ path: beside, stream: null, ...(isOld ? { alphabet: OLD_ALPHABET } : {}) }, signal);
}
