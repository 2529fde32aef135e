import { describe, expect, it } from 'vitest';
import type { ProgrammeSummary, ProgrammeView } from '../contract/views.ts';
import { renditionRequestSchema } from '../contract/recipe.ts';
import { RATED_CODECS } from '../core/video/codecs.ts';
import { parseWith } from '../contract/strictObject.ts';
import { ratedVideo } from '../core/recipe/recipe.ts';
import { factsOf } from '../testing/facts.ts';
import { firstOrders } from './firstOrders.ts';

const named = (name: string): ProgrammeView & ProgrammeSummary => ({
  ...factsOf(),
  ...{
    id: name,
    path: `/m/${name}`,
    name,
    state: 'ready',
    master: 'there',
    addedAt: '',
    openingFrame: 0,
    isMade: false,
  },
});

describe('what the demonstration orders', () => {
  const orders = firstOrders([named('Talk.mov'), named('Ridge flight 5994.mov')]);

  it('shows two caps, two frame sizes, every codec and a portion, of one programme', () => {
    const videos = orders.map(({ recipe }) => ratedVideo(recipe)!);
    expect(new Set(orders.map(({ programmeId }) => programmeId))).toEqual(new Set(['Ridge flight 5994.mov']));
    expect(new Set(videos.map(({ codec }) => codec))).toEqual(new Set(RATED_CODECS));
    expect(videos.filter(({ rate }) => rate.mode === 'size')).toHaveLength(2);
    expect(new Set(orders.map(({ recipe }) => recipe.picture.fit?.height))).toEqual(new Set([360, 720]));
    expect(orders.filter(({ portion }) => portion !== null)).toHaveLength(1);
  });

  it('is what any script may order', () => {
    for (const order of orders) expect(parseWith(renditionRequestSchema, order)).toMatchObject({ ok: true });
    expect(firstOrders([named('Talk.mov')])).toEqual([]);
  });
});
