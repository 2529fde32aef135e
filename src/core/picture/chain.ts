import { adjust, type Adjust } from './adjust.ts';
import { captions, type CaptionTime, type DrawnCaptions } from './captions.ts';
import { crop, type Crop } from './crop.ts';
import { deinterlace, type Deinterlace } from './deinterlace.ts';
import { denoise, type Denoise } from './denoise.ts';
import { lead, type Lead } from './lead.ts';
import { mark, type Mark } from './mark.ts';
import { pad, type Pad } from './pad.ts';
import { retime, type Retime } from './retime.ts';
import { scale, type Sampling, type Scale } from './scale.ts';
import { stamp, type Stamp } from './stamp.ts';
import type { StepDefinition } from './step.ts';
import { store, type Store } from './store.ts';
import { tag, type Tag } from './tag.ts';
import { STANDARD_SAMPLING, toneMap, type ToneMap } from './toneMap.ts';
import { turn, type Turn } from './turn.ts';

/** One thing that is done to the frames of a picture, in the order of the chain. */
export type PictureStep =
  | Deinterlace
  | Crop
  | Turn
  | Retime
  | Scale
  | ToneMap
  | Denoise
  | Lead
  | Adjust
  | DrawnCaptions
  | Mark
  | Pad
  | Store
  | Tag
  | Stamp;

const STEP: Readonly<Record<PictureStep['step'], StepDefinition>> = {
  ...{ deinterlace, crop, turn, retime },
  ...{ scale, toneMap, denoise, lead, adjust },
  ...{ captions, mark, pad, store, tag, stamp },
};

/** The part of a chain that the comparison's reference goes through as well. */
export function referenceChain(chain: readonly PictureStep[]): PictureStep[] {
  return chain.filter(({ step }) => STEP[step].isInReference);
}

/** What the numbers of the reference's pixels mean, where a master's mean `own`. */
export function referenceSampling(chain: readonly PictureStep[], own: Sampling): Sampling {
  const down = bringsDown(chain) ? STANDARD_SAMPLING : own;
  return chain.some(({ step }) => step === 'adjust' || step === 'captions') ? { ...down, range: 'limited' } : down;
}

/** Whether high light is brought down on the way. */
export function bringsDown(chain: readonly PictureStep[]): boolean {
  return chain.some(({ step }) => step === 'toneMap');
}

/** The step that has the picture stand in a larger frame; null where it fills its own. */
export function padOf(chain: readonly PictureStep[]): Pad | null {
  return chain.find((step) => step.step === 'pad') ?? null;
}

/** The step that draws captions; null where none are. */
export function captionsOf(chain: readonly PictureStep[]): DrawnCaptions | null {
  return chain.find((step) => step.step === 'captions') ?? null;
}

/** The step that draws a mark; null where none is. */
export function markOf(chain: readonly PictureStep[]): Mark | null {
  return chain.find((step) => step.step === 'mark') ?? null;
}

/** The chain with its captions drawn from another time on. */
export function drawnFrom(chain: readonly PictureStep[], at: CaptionTime): PictureStep[] {
  return chain.map((one) => (one.step === 'captions' ? { ...one, at } : one));
}

/** What a result's frames go through before they are compared: what is beside the picture is cut off; nothing where nothing is. */
export function unpadding(chain: readonly PictureStep[]): Crop[] {
  const padded = padOf(chain);
  return padded ? [{ step: 'crop', edges: padded.edges }] : [];
}

/** How many frames before the first have to be read as well, so that it comes out as in the middle. */
export function leadFrames(chain: readonly PictureStep[]): number {
  return Math.max(0, ...chain.map(leadOf));
}

function leadOf({ step }: PictureStep): number {
  return STEP[step].leadFrames ?? 0;
}

/** The chain with so many frames left out once the step that goes by those before has seen them. */
export function leavingOut(chain: readonly PictureStep[], frames: number): readonly PictureStep[] {
  if (frames === 0) return chain;
  return chain.flatMap((one): PictureStep[] => (leadOf(one) > 0 ? [one, { step: 'lead', frames }] : [one]));
}

/** How many frames come out for each that goes in, before any other rate. */
export function framesPerFrame(chain: readonly PictureStep[]): 1 | 2 {
  return chain.some((one) => one.step === 'deinterlace' && one.eachField) ? 2 : 1;
}

/** The step that gives frames another rate; null where they keep their own. */
export function retimeOf(chain: readonly PictureStep[]): Retime | null {
  return chain.find((step) => step.step === 'retime') ?? null;
}
