import { soundsOf, type EncodePlan } from '../../core/plan/encodePlan.ts';
import { encodedSound, ratedVideo, type Recipe } from '../../core/recipe/recipe.ts';
import { SOUND } from '../../core/sound/codecs.ts';
import { kbpsRange, nominalLayout } from '../../core/sound/definition.ts';
import { PICTURE_KBPS_RANGE } from '../../core/video/codecs.ts';
import { roundToRead } from '../kit/format.ts';

/** A part of the budget whose size can be chosen by moving its edge along the bar. */
export interface PartHandle {
  readonly part: 'picture' | 'sound';
  readonly kbps: number;
  readonly range: readonly [least: number, most: number];
  /** Bytes from the bar's beginning to the edge. */
  readonly at: number;
  /** The recipe with the edge at so many bytes. */
  readonly moveTo: (at: number) => Recipe;
  /** The recipe with the part so many steps greater. */
  readonly step: (steps: number) => Recipe;
}

/** Sound is chosen in steps of this, as its usual rates are. */
const SOUND_STEP_KBPS = 8;

/** Under a cap sound gets at most this share of it; the picture needs the rest. */
const MOST_SOUND_SHARE = 0.5;

/**
 * The edges that can be moved: the picture's where its rate is chosen; the sound's wherever there is sound. Under a cap
 * the two share what there is, so the edge between them is moved and one grows as the other shrinks.
 */
export function partHandles(recipe: Recipe, plan: EncodePlan): PartHandle[] {
  const picture = pictureHandle(recipe, plan);
  const sound = soundHandle(recipe, plan);
  return [picture, sound].filter((handle) => handle !== null);
}

function pictureHandle(recipe: Recipe, plan: EncodePlan): PartHandle | null {
  const video = ratedVideo(recipe);
  if (!video || !('kbps' in video.rate) || plan.budget.split.video === null) return null;
  const { rate } = video;
  const withRate = (kbps: number): Recipe => ({
    ...recipe,
    video: { ...video, rate: { ...rate, kbps: clamp(kbps, PICTURE_KBPS_RANGE) } },
  });
  return {
    part: 'picture',
    kbps: rate.kbps,
    range: PICTURE_KBPS_RANGE,
    at: plan.budget.split.video,
    moveTo: (at) => withRate(roundToRead(kbpsOf(at, plan))),
    step: (steps) => withRate(Math.round(rate.kbps + Math.max(1, rate.kbps / 100) * steps)),
  };
}

function soundHandle(recipe: Recipe, plan: EncodePlan): PartHandle | null {
  const audio = encodedSound(recipe);
  const { split, cap } = plan.budget;
  if (!audio || soundsOf(plan).length === 0) return null;
  const { rate } = SOUND[audio.codec];
  const { kbps } = audio;
  if (rate.kind === 'whole' || kbps === null) return null;
  const [least, most] = kbpsRange(rate, soundsOf(plan)[0]?.out.channels ?? nominalLayout(audio.channels));
  const share = cap === null ? most : Math.max(least, Math.floor(kbpsOf(cap * MOST_SOUND_SHARE, plan)));
  const range = [least, Math.min(most, share)] as const;
  const withRate = (asked: number): Recipe => ({ ...recipe, audio: { ...audio, kbps: clamp(asked, range) } });
  const picture = split.video ?? 0;
  const soundBytes = (at: number) => (cap === null ? at - picture : picture + split.audio - at);
  return {
    part: 'sound',
    kbps,
    range,
    at: cap === null ? picture + split.audio : picture,
    moveTo: (at) => withRate(SOUND_STEP_KBPS * Math.round(kbpsOf(soundBytes(at), plan) / SOUND_STEP_KBPS)),
    step: (steps) => withRate(kbps + SOUND_STEP_KBPS * steps),
  };
}

function kbpsOf(bytes: number, plan: EncodePlan): number {
  return (bytes * 8) / plan.span.seconds / 1000;
}

function clamp(kbps: number, [least, most]: readonly [number, number]): number {
  return Math.max(least, Math.min(most, Math.round(kbps)));
}
