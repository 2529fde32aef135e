import { copyFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { captionTracks, type CaptionTrack } from '../../core/captions/captionTracks.ts';
import { readCues } from '../../core/captions/cues.ts';
import { writeMark, writeSubStation } from '../../core/captions/subStation.ts';
import { inTransfer } from '../../core/picture/brightness.ts';
import type { DrawnCaptions } from '../../core/picture/captions.ts';
import { captionsOf, markOf } from '../../core/picture/chain.ts';
import { pictureOf, type EncodePlan } from '../../core/plan/encodePlan.ts';
import { CAPTIONS_FILE } from '../../engine/filters/captions.ts';
import { MARK_PICTURE, MARK_SCRIPT } from '../../engine/filters/mark.ts';
import type { Engine } from '../../engine/engine.ts';
import { readCaptions, type CaptionedMaster } from '../captions/readCaptions.ts';
import type { Config } from '../config.ts';
import { resolveMediaFile } from '../programmes/mediaFolders.ts';
import { isRefusal, Refusal } from '../refusal.ts';
import { readFont } from './font.ts';

/** What a picture has drawn into it, as whoever draws it wants it; null where nothing is. */
export interface Drawn {
  /** A script. */
  readonly captions: string | null;
  /** A script, or where a picture lies. */
  readonly mark: { readonly script: string } | { readonly file: string } | null;
}

/** Where things lie that are drawn: pictures in the media folders, letters with the application. */
export type DrawnFrom = Pick<Config, 'applicationFolder' | 'mediaFolders'>;

/**
 * What a plan has drawn into its picture.
 *
 * @throws As `readCaptions`; Refusal `mark-missing`.
 */
export async function readDrawn(
  engine: Engine,
  from: DrawnFrom,
  master: CaptionedMaster,
  plan: EncodePlan,
  signal: AbortSignal,
): Promise<Drawn> {
  const drawn = drawnTrack(master.facts, plan);
  return {
    captions: drawn && (await writeCaptions(engine, from, master, { plan, ...drawn }, signal)),
    mark: await readMark(from, plan),
  };
}

/** Captions that are drawn into a plan's picture, and how. */
export interface DrawnTrack {
  readonly step: DrawnCaptions;
  readonly track: CaptionTrack;
}

/**
 * Which captions a plan has drawn in; null where none are.
 *
 * @throws Refusal `captions-unreadable` where they are no longer there.
 */
export function drawnTrack(facts: CaptionedMaster['facts'], plan: EncodePlan): DrawnTrack | null {
  const step = captionsOf(pictureOf(plan)?.chain ?? []);
  if (!step) return null;
  const track = captionTracks(facts)[step.number];
  if (!track) {
    throw new Refusal('captions-unreadable', 'The master no longer has the captions that this was ordered with.');
  }
  return { step, track };
}

/**
 * A script of the captions that are drawn in.
 *
 * @throws As `readCaptions`.
 */
export async function writeCaptions(
  engine: Engine,
  { applicationFolder }: DrawnFrom,
  master: CaptionedMaster,
  { plan, step, track }: DrawnTrack & { readonly plan: EncodePlan },
  signal: AbortSignal,
): Promise<string> {
  const text = await readCaptions(engine, master, track, plan.span, signal);
  const font = await readFont(applicationFolder);
  return writeSubStation(readCues(text), { font, shape: step.shape, white: whiteOf(plan) });
}

/**
 * The mark that a plan has drawn into its picture.
 *
 * @throws Refusal `mark-missing`.
 */
export async function readMark(from: DrawnFrom, plan: EncodePlan): Promise<Drawn['mark']> {
  const step = markOf(pictureOf(plan)?.chain ?? []);
  if (!step) return null;
  if (step.file !== null) return { file: await findMark(from, step.file) };
  const font = await readFont(from.applicationFolder);
  return { script: writeMark({ ...step, text: step.text ?? '' }, { font, shape: step.shape, white: whiteOf(plan) }) };
}

/**
 * Where the picture of a mark really lies.
 *
 * @throws Refusal `mark-missing`, with how it came to be.
 */
export async function findMark({ mediaFolders }: Pick<DrawnFrom, 'mediaFolders'>, file: string): Promise<string> {
  try {
    return await resolveMediaFile(mediaFolders, file);
  } catch (error) {
    if (!isRefusal(error)) throw error;
    const message = `The mark ${file} cannot be used: it has to be a picture that lies in one of the media folders.`;
    throw new Refusal('mark-missing', message, { field: 'recipe.picture.mark', cause: error });
  }
}

/** Puts what is drawn where the engine works. */
export async function placeDrawn({ captions, mark }: Drawn, workingFolder: string): Promise<void> {
  const at = (name: string) => path.join(workingFolder, name);
  if (captions !== null) await writeFile(at(CAPTIONS_FILE), captions);
  if (mark && 'script' in mark) await writeFile(at(MARK_SCRIPT), mark.script);
  if (mark && 'file' in mark) await copyFile(/* turbopackIgnore: true */ mark.file, at(MARK_PICTURE));
}

/** What the letters' white is as a signal, from 0 to 255. */
function whiteOf(plan: EncodePlan): number {
  const [white] = inTransfer([255, 255, 255], pictureOf(plan)?.out.colour.transfer ?? '');
  return white;
}
