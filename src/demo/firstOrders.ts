import type { RenditionRequest } from '../contract/recipe.ts';
import type { ProgrammeSummary } from '../contract/views.ts';
import { withVideoCodec } from '../core/recipe/changeRecipe.ts';
import { plainVideo, atQuality, STARTING_RECIPE, type RateChoice, type Recipe } from '../core/recipe/recipe.ts';
import type { RatedCodec } from '../core/video/codecs.ts';

/** What the demonstration orders at its first start: of one programme two caps, two frame sizes, every codec, and a portion. */
const ORDERS: readonly (readonly [codec: RatedCodec, height: number, rate: RateChoice])[] = [
  ['h264', 360, atQuality(26)],
  ['h264', 360, { mode: 'size', bytes: 900_000 }],
  ['hevc', 360, atQuality(27)],
  ['vp9', 360, atQuality(38)],
  ['av1', 360, atQuality(38)],
  ['h264', 720, { mode: 'size', bytes: 2_500_000 }],
  ['h264', 720, atQuality(24)],
];

/** Busy enough that quality tells, short enough for two minutes. */
const PROGRAMME = 'Ridge flight';

/** The portion's first and last second. */
const PORTION_SECONDS = [2, 6] as const;

/**
 * Orders that show the work to a newcomer: progress at once, then table, chart and viewing desk.
 *
 * @returns In the order in which they are queued; none where the programme is not there.
 */
export function firstOrders(programmes: readonly ProgrammeSummary[]): RenditionRequest[] {
  const programme = programmes.find(({ name }) => name.startsWith(PROGRAMME));
  if (!programme) return [];
  const { num, den } = programme.frameRate;
  const [inFrame, end] = PORTION_SECONDS.map((seconds) => Math.round((seconds * num) / den)) as [number, number];
  const order = (recipe: Recipe, portion: RenditionRequest['portion']): RenditionRequest => ({
    programmeId: programme.id,
    recipe,
    portion,
    name: null,
    keepFailed: false,
  });
  const recipes = ORDERS.map(([codec, height, rate]) => recipeOf(codec, height, rate));
  const [first] = recipes as [Recipe];
  return [
    ...recipes.map((recipe) => order(recipe, null)),
    order(first, { inFrame, outFrame: end - 1, name: 'Over the ridge' }),
  ];
}

function recipeOf(codec: RatedCodec, height: number, rate: RateChoice): Recipe {
  const picture = { ...STARTING_RECIPE.picture, fit: { height } };
  return withVideoCodec({ ...STARTING_RECIPE, video: plainVideo(codec, rate, 'fast'), picture }, codec);
}
