import { crop, type Crop } from './crop.ts';
import { deinterlace, type Deinterlace } from './deinterlace.ts';
import { retime, type Retime } from './retime.ts';
import { scale, type Sampling, type Scale } from './scale.ts';
import { stamp, type Stamp } from './stamp.ts';
import type { StepDefinition } from './step.ts';
import { store, type Store } from './store.ts';
import { tag, type Tag } from './tag.ts';
import { STANDARD_SAMPLING, toneMap, type ToneMap } from './toneMap.ts';

/** One thing that is done to the frames of a picture, in the order of the chain. */
export type PictureStep = Deinterlace | Crop | Retime | Scale | ToneMap | Store | Tag | Stamp;

const STEP: Readonly<Record<PictureStep['step'], StepDefinition>> = {
  ...{ deinterlace, crop, retime },
  ...{ scale, toneMap, store, tag, stamp },
};

/** The part of a chain that the comparison's reference goes through as well. */
export function referenceChain(chain: readonly PictureStep[]): PictureStep[] {
  return chain.filter(({ step }) => STEP[step].isInReference);
}

/** What the numbers of the reference's pixels mean, where a master's mean `own`. */
export function referenceSampling(chain: readonly PictureStep[], own: Sampling): Sampling {
  return bringsDown(chain) ? STANDARD_SAMPLING : own;
}

/** Whether high light is brought down on the way. */
export function bringsDown(chain: readonly PictureStep[]): boolean {
  return chain.some(({ step }) => step === 'toneMap');
}

/** How many frames come out for each that goes in, before any other rate. */
export function framesPerFrame(chain: readonly PictureStep[]): 1 | 2 {
  return chain.some((one) => one.step === 'deinterlace' && one.eachField) ? 2 : 1;
}

/** The step that gives frames another rate; null where they keep their own. */
export function retimeOf(chain: readonly PictureStep[]): Retime | null {
  return chain.find((step) => step.step === 'retime') ?? null;
}
