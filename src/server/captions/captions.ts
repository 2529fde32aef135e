import path from 'node:path';
import type { CaptionView } from '../../contract/views.ts';
import { captionTracks } from '../../core/captions/captionTracks.ts';
import type { Context } from '../context.ts';
import { identityOf, withMaster } from '../programmes/masters.ts';
import { findProgramme } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';
import { findRendition } from '../renditions/renditions.ts';
import { readCaptions } from './readCaptions.ts';

/** The captions of a rendition's programme, in the order of their numbers; none beside sound alone, and where none are wanted. */
export async function listCaptions(context: Context, renditionId: string): Promise<CaptionView[]> {
  const { programme_id: programmeId, recipe } = await findRendition(context, renditionId);
  const { facts } = await findProgramme(context, programmeId);
  return recipe.video && recipe.file.captions !== 'none'
    ? captionTracks(facts).map(({ label, isText }) => ({ label, isText }))
    : [];
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
  const read = (source: string) => readCaptions(context.engine, { ...programme, source }, track, plan.span, signal);
  const content = 'stream' in track.from ? await withMaster(identityOf(programme), read) : await read(programme.path);
  return { name: [path.parse(output).name, track.mark, 'vtt'].filter(Boolean).join('.'), content };
}
