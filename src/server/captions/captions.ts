import { readFile, stat } from 'node:fs/promises';
import path from 'node:path';
import type { CaptionView } from '../../contract/views.ts';
import { captionTracks, type CaptionTrack } from '../../core/captions/captionTracks.ts';
import { cutCues, readCues, writeCues } from '../../core/captions/cues.ts';
import type { Context } from '../context.ts';
import { identityOf, withMaster } from '../programmes/masters.ts';
import { findProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';
import { findRendition } from '../renditions/renditions.ts';

/** The captions of a rendition's programme, in the order of their numbers; none beside sound alone. */
export async function listCaptions(context: Context, renditionId: string): Promise<CaptionView[]> {
  const { programme_id: programmeId, recipe } = await findRendition(context, renditionId);
  const { facts } = await findProgramme(context, programmeId);
  return recipe.video ? captionTracks(facts).map(({ label, isText }) => ({ label, isText })) : [];
}

/** A file of captions, and how it is called. */
export interface CaptionFile {
  readonly name: string;
  readonly content: string;
}

/**
 * Captions as they go with a rendition: of its length, from its beginning, as WebVTT.
 *
 * @param number - Which of them, from 0.
 * @throws Refusal `captions-are-pictures`, and as masters are refused.
 */
export async function readCaptionFile(
  context: Context,
  renditionId: string,
  number: number,
  signal: AbortSignal,
): Promise<CaptionFile> {
  const { programme_id: programmeId, plan, path: output } = await findRendition(context, renditionId);
  const programme = await findProgramme(context, programmeId);
  const track = captionTracks(programme.facts)[number];
  if (!track) throw new Refusal('not-found', `This programme has no captions number ${number}.`);
  if (!track.isText) {
    throw new Refusal(
      'captions-are-pictures',
      'These captions are stored as pictures, and cannot be handed over as text.',
    );
  }
  const { startSeconds, seconds } = plan.span;
  const cues = readCues(await readTrack(context, programme, track, signal));
  // What lies inside goes by the clock of the file, on which the picture may begin later.
  const offset = 'stream' in track.from ? (programme.facts.video?.startSeconds ?? 0) : 0;
  const content = writeCues(cutCues(cues, offset + startSeconds, seconds));
  return { name: [path.parse(output).name, track.mark, 'vtt'].filter(Boolean).join('.'), content };
}

/** A day of captions is a few megabytes. */
const MOST_BYTES = 50_000_000;

async function readTrack(
  { engine }: Context,
  programme: ProgrammeRow,
  { from }: CaptionTrack,
  signal: AbortSignal,
): Promise<string> {
  if ('stream' in from) {
    const { stream } = from;
    return withMaster(identityOf(programme), (source) => engine.captions({ path: source, stream }, signal));
  }
  const beside = path.join(path.dirname(programme.path), from.file);
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
  // What is WebVTT already keeps where it is shown, which the engine forgets.
  if (from.file.toLowerCase().endsWith('.vtt')) return readFile(/* turbopackIgnore: true */ beside, 'utf8');
  return engine.captions({ path: beside, stream: null }, signal);
}
