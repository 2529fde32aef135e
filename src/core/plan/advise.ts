import type { Findings } from '../analysis/conclude.ts';
import { floorRate, type Sounding } from '../sounding/sounding.ts';
import type { ProgrammeFacts } from '../programme/facts.ts';
import { isColourTagged, isHighDynamicRange } from '../programme/colour.ts';
import { isEncoded, pictureOf, soundsOf, type Advisory, type EncodePlan } from './encodePlan.ts';
import type { Recipe } from '../recipe/recipe.ts';

type Unadvised = Omit<EncodePlan, 'version' | 'advisories'>;

/** Of a cap spent on sound, from where it is worth a word (common practice, no source). */
const HEAVY_SOUND_SHARE = 0.3;

/**
 * What a person should know about a plan that works: each finding with its reason, none of which stops it.
 */
export function advise(
  facts: ProgrammeFacts,
  recipe: Recipe,
  plan: Unadvised,
  sounding: Sounding | null,
  scan: Findings['scan'],
): Advisory[] {
  return [...adviseOnBudget(plan, sounding), ...adviseOnSource(facts, recipe, plan, scan)];
}

function* adviseOnBudget(plan: Unadvised, sounding: Sounding | null): Generator<Advisory> {
  const { cap, split, binds, expected, videoRate } = plan.budget;
  if (binds === 'finest-quality' && expected) {
    yield {
      code: 'cap-does-not-bind',
      severity: 'note',
      field: 'video.rate.bytes',
      message: `The cap does not bind: at the finest quality worth having, this picture takes about ${megabytes(expected.likely)}, and no more will be spent.`,
    };
  }
  if (cap !== null && split.audio / cap > HEAVY_SOUND_SHARE) {
    yield {
      code: 'sound-takes-much',
      severity: 'caution',
      field: 'audio.kbps',
      message: `Sound takes ${Math.round((100 * split.audio) / cap)} % of the cap; half its rate, or mono for speech, leaves more for the picture.`,
    };
  }
  if (cap !== null && sounding && videoRate !== null && videoRate < floorRate(sounding) * 1.2) {
    yield {
      code: 'cap-near-floor',
      severity: 'caution',
      field: 'picture.fit',
      message:
        'The cap is about as low as the encoder reaches at this frame size; a smaller frame size is safer and will look better.',
    };
  }
}

function* adviseOnSource(
  facts: ProgrammeFacts,
  recipe: Recipe,
  plan: Unadvised,
  scan: Findings['scan'],
): Generator<Advisory> {
  const { video } = facts;
  if (recipe.audio && facts.audio.length === 0) {
    yield note('source-silent', 'audio', 'This programme has no sound, so the rendition will have none.');
  }
  if (facts.audio.length > 1 && soundsOf(plan).length > 0) {
    yield note('more-sound-tracks', 'audio', `Of ${facts.audio.length} sound tracks the first is used.`);
  }
  // A copy is what its master is.
  const picture = pictureOf(plan);
  if (!video || !picture || !isEncoded(picture)) return;
  if (!isColourTagged(video.colour)) {
    const custom = picture.out.colour.matrix === 'bt709' ? 'BT.709, the custom of HD' : 'BT.601, the custom of SD';
    yield note('colour-not-tagged', 'picture', `The colour is not fully tagged; it is taken as ${custom}.`);
  }
  if (isHighDynamicRange(video)) {
    yield {
      code: 'high-dynamic-range',
      severity: 'caution',
      field: 'picture',
      message:
        'This is a high dynamic range master; in 8 bits its dark tones will show steps and most screens will show it flat.',
    };
  }
  const isInterlaced = scan === null ? video.interlaced : scan !== 'progressive';
  if (isInterlaced && !recipe.picture.deinterlace) {
    yield {
      code: 'interlaced',
      severity: 'caution',
      field: 'picture',
      message:
        'The master is interlaced and is encoded as it is; moving edges will show combs on most screens. Deinterlace it under Fine control.',
    };
  }
  if (!video.constantRate) {
    yield note('variable-rate', 'time', 'The frame rate varies; every frame keeps its own time.');
  }
}

function note(code: string, field: string, message: string): Advisory {
  return { code, severity: 'note', field, message };
}

function megabytes(size: number): string {
  return `${(size / 1e6).toFixed(size < 1e7 ? 2 : 1)} MB`;
}
