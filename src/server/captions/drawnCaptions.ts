import { readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { captionTracks } from '../../core/captions/captionTracks.ts';
import { readCues } from '../../core/captions/cues.ts';
import { writeSubStation, type CaptionFont } from '../../core/captions/subStation.ts';
import { inTransfer } from '../../core/picture/brightness.ts';
import { captionsOf } from '../../core/picture/chain.ts';
import { pictureOf, type EncodePlan } from '../../core/plan/encodePlan.ts';
import { CAPTIONS_FILE } from '../../engine/filters/captions.ts';
import type { Engine } from '../../engine/engine.ts';
import { Refusal } from '../refusal.ts';
import { readCaptions, type CaptionedMaster } from './readCaptions.ts';

/** Of the typeface of the application, and the files that its letters are spread over. */
const FAMILY = 'Source Sans 3 ExtraLight SemiBold';
const ALPHABETS = ['latin', 'latin-ext', 'greek', 'greek-ext', 'cyrillic', 'cyrillic-ext', 'vietnamese'] as const;
const FONTS = 'node_modules/@fontsource/source-sans-3/files';

/**
 * The captions that a plan has drawn into its picture, as a script for who draws them.
 *
 * @param applicationFolder - Where the application and its typefaces lie.
 * @returns null where none are drawn.
 * @throws As `readCaptions`.
 */
export async function readDrawnCaptions(
  engine: Engine,
  applicationFolder: string,
  master: CaptionedMaster,
  plan: EncodePlan,
  signal: AbortSignal,
): Promise<string | null> {
  const picture = pictureOf(plan);
  const step = picture && captionsOf(picture.chain);
  if (!picture || !step) return null;
  const track = captionTracks(master.facts)[step.number];
  if (!track) {
    throw new Refusal('captions-unreadable', 'The master no longer has the captions that this was ordered with.');
  }
  const text = await readCaptions(engine, master, track, plan.span, signal);
  const [white] = inTransfer([255, 255, 255], picture.out.colour.transfer);
  return writeSubStation(readCues(text), {
    font: await readFont(applicationFolder),
    shape: step.shape,
    white,
  });
}

/** Puts a script where whatever draws it works; none where there is none. */
export async function placeCaptions(script: string | null, workingFolder: string): Promise<void> {
  if (script !== null) await writeFile(path.join(workingFolder, CAPTIONS_FILE), script);
}

async function readFont(applicationFolder: string): Promise<CaptionFont> {
  const names = ALPHABETS.map((alphabet) => `source-sans-3-${alphabet}-600-normal.woff2`);
  const files = names.map(async (name) => {
    const bytes = await readFile(path.join(/* turbopackIgnore: true */ applicationFolder, FONTS, name));
    return { name, bytes };
  });
  return { family: FAMILY, files: await Promise.all(files) };
}
