import { referenceChain, type PictureStep } from '../../core/picture/chain.ts';
import type { PicturePath, PictureSource } from '../../core/plan/encodePlan.ts';
import type { Opening } from '../../core/programme/opening.ts';
import { renderAdjust } from './adjust.ts';
import { renderCaptions } from './captions.ts';
import { renderCrop } from './crop.ts';
import { renderDeinterlace } from './deinterlace.ts';
import { renderDenoise } from './denoise.ts';
import { renderLead } from './lead.ts';
import { renderMark } from './mark.ts';
import { renderPad } from './pad.ts';
import { renderRetime } from './retime.ts';
import { renderScale } from './scale.ts';
import { renderStamp } from './stamp.ts';
import { renderStore } from './store.ts';
import { renderTag } from './tag.ts';
import { renderToneMap } from './toneMap.ts';
import { renderTurn } from './turn.ts';

/** How each kind of step is asked of the engine. */
const RENDERERS: {
  readonly [Name in PictureStep['step']]: (step: Extract<PictureStep, { readonly step: Name }>) => string;
} = {
  deinterlace: renderDeinterlace,
  crop: renderCrop,
  turn: renderTurn,
  retime: renderRetime,
  scale: renderScale,
  toneMap: renderToneMap,
  denoise: renderDenoise,
  lead: renderLead,
  adjust: renderAdjust,
  captions: renderCaptions,
  mark: renderMark,
  pad: renderPad,
  store: renderStore,
  tag: renderTag,
  stamp: renderStamp,
};

/** A chain as the engine's filters, in its order. */
export function renderChain(chain: readonly PictureStep[]): string[] {
  // The list above gives each kind the renderer of its own.
  return chain.map((step) => (RENDERERS[step.step] as (step: PictureStep) => string)(step));
}

/**
 * The graph of frames on the way to an encoder: read, then through the whole chain.
 *
 * @returns Filters, without the labels at either end.
 */
export function encodeGraph({ from, chain }: Pick<PicturePath, 'from' | 'chain'>): string {
  // Counting frames at the output instead would end the sound together with the last picture, too early.
  return [readFrames(from), ...renderChain(chain)].join(',');
}

/** The graph of the frames that a result is compared with: read, then through what is no loss. */
export function referenceGraph({ from, chain }: Pick<PicturePath, 'from' | 'chain'>): string {
  return [readFrames(from), ...renderChain(referenceChain(chain))].join(',');
}

/** The frames that are taken, counted from where the file was opened and what is skipped there ends. */
function readFrames({ opening, inFrame, frameCount }: PictureSource): string {
  const first = opening ? 0 : inFrame;
  const trim = `trim=start_frame=${first}:end_frame=${first + frameCount}`;
  return [...(opening ? skipFilters(opening) : []), trim].join(',');
}

/** What leaves out the frames before the wanted one in a file that was opened early; empty where none are. */
export function skipFilters({ skipSeconds }: Opening): string[] {
  return skipSeconds > 0 ? [`trim=start=${skipSeconds.toFixed(9)}`] : [];
}
