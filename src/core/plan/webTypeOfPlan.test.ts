import { describe, expect, it } from 'vitest';
import type { Container } from '../container/names.ts';
import { withVideoCodec } from '../recipe/changeRecipe.ts';
import { STARTING_RECIPE, type Recipe } from '../recipe/recipe.ts';
import { clockOf, factsOf } from '../../testing/facts.ts';
import { SOUND_CODECS } from '../sound/codecs.ts';
import { VIDEO_CODECS, type VideoCodec } from '../video/codecs.ts';
import { planRendition } from './planRendition.ts';
import { webTypeOfPlan } from './webTypeOfPlan.ts';

const FACTS = factsOf();

function typeOf(recipe: Recipe): string | null {
  const request = { facts: FACTS, clock: clockOf(FACTS), recipe, portion: null, sounding: null };
  const outcome = planRendition({ ...request, encoders: [...VIDEO_CODECS, ...SOUND_CODECS] });
  if (!outcome.ok) throw new Error(outcome.problems[0]?.message);
  return webTypeOfPlan(outcome.plan);
}

describe('what a browser is asked before a file is made', () => {
  // RFC 6381; the codecs' own mappings, as told beside the levels they name. The picture is 1280 × 720 at 25 fps.
  it.each<[VideoCodec, Container, string]>([
    ['h264', 'mp4', 'video/mp4; codecs="avc1.64001F, mp4a.40.2"'],
    ['hevc', 'mp4', 'video/mp4; codecs="hvc1.1.6.L93.B0, mp4a.40.2"'],
    ['vp9', 'webm', 'video/webm; codecs="vp09.00.31.08, opus"'],
    ['av1', 'mp4', 'video/mp4; codecs="av01.0.05M.08, mp4a.40.2"'],
  ])('%s in %s', (codec, container, type) => {
    const recipe = withVideoCodec({ ...STARTING_RECIPE, container }, codec);
    expect(
      typeOf(container === 'webm' ? { ...recipe, audio: { ...STARTING_RECIPE.audio, codec: 'opus' } } : recipe),
    ).toBe(type);
  });

  it('is nothing where no browser opens such files', () => {
    expect(typeOf(withVideoCodec({ ...STARTING_RECIPE, container: 'mov' }, 'prores'))).toBeNull();
  });
});
