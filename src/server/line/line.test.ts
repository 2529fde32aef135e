import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { STARTING_RECIPE } from '../../core/recipe/recipe.ts';
import { makeFakeProgramme } from '../../testing/fakeProgramme.ts';
import { orderRendition } from '../renditions/renditions.ts';
import { openLine, type Line } from './line.ts';

let context: Awaited<ReturnType<typeof makeFakeProgramme>>['context'];
let line: Line;
let id = '';
let told = 0;

beforeAll(async () => {
  const { programmeId, ...made } = await makeFakeProgramme();
  context = made.context;
  const order = { programmeId, recipe: STARTING_RECIPE, portion: null, name: null, keepFailed: false };
  ({ id } = await orderRendition(context, order));
  line = await openLine(context, () => (told += 1));
});
afterAll(async () => {
  line.stop();
  await context.database.close();
});

describe('the line', () => {
  it('has room for the next while one stands still, and none beside it once it goes on', async () => {
    expect(line.room()).toBe(1);
    const { hold, end } = line.begin(id);
    expect(line.room()).toBe(1);
    await line.setHeld(id, true);
    expect([line.room(), hold.isHeld(), told]).toEqual([2, true, 1]);
    await line.setHeld(id, false);
    expect([line.room(), hold.isHeld()]).toEqual([1, false]);
    await line.setHeld(id, true);
    end();
    expect(line.room()).toBe(1);
    await line.setHeld(id, false);
  });

  it('is closed for all while it is stopped, whatever stands still', async () => {
    const { hold, end } = line.begin(id);
    await line.setHeld(id, true);
    await line.change({ paused: true });
    expect([line.room(), hold.isHeld()]).toEqual([0, true]);
    await line.setHeld(id, false);
    expect([line.room(), hold.isHeld()]).toEqual([0, true]);
    await line.change({ paused: false });
    expect([line.room(), hold.isHeld()]).toEqual([1, false]);
    end();
  });
});
