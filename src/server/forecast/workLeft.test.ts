import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { STARTING_CHECKS_SECONDS, STARTING_SECONDS } from '../../core/forecast/encodeTime.ts';
import { atQuality, plainVideo, STARTING_RECIPE, type Recipe } from '../../core/recipe/recipe.ts';
import { makeFakeProgramme } from '../../testing/fakeProgramme.ts';
import { writeQueueSettings } from '../line/queueSettings.ts';
import { orderRendition } from '../renditions/renditions.ts';
import { viewSpeeds } from './speeds.ts';
import { viewWorkLeft, viewWorkWith } from './workLeft.ts';

let context: Awaited<ReturnType<typeof makeFakeProgramme>>['context'];
let programmeId = '';
const AT_ANY_HOUR = { paused: false, atOnce: 1, hours: null, whenIdle: false };
const recipe: Recipe = { ...STARTING_RECIPE, video: plainVideo('h264', atQuality(23), 'fast') };
const sql = (text: string, values: readonly (string | null)[] = []) => context.database.query(text, values);

beforeAll(async () => {
  ({ context, programmeId } = await makeFakeProgramme());
});
afterAll(() => context.database.close());

/** Orders one; nothing is carried out here. */
async function order(batchId: string | null = null): Promise<string> {
  const { id } = await orderRendition(context, { programmeId, recipe, portion: null, name: null, keepFailed: false });
  await sql('UPDATE rendition SET batch_id = $2 WHERE id = $1', [id, batchId]);
  return id;
}

async function left(batchId: string | null = null) {
  return (await viewWorkLeft(context, batchId))!;
}

describe('what a queue has left', () => {
  it('is nothing where nothing waits, and unknown before anything was made here', async () => {
    expect(await viewWorkLeft(context, null)).toBeNull();
    await order();
    expect(await left()).toMatchObject({ seconds: 0, unknown: 1 });
  });

  it('is what those that waited took before: work and checks', async () => {
    const made = await order();
    await sql(
      `UPDATE rendition SET state = 'done', bytes = 9e6, encode_seconds = 30.6, check_seconds = 10.6, finished_at = now() WHERE id = $1`,
      [made],
    );
    await sql(`DELETE FROM job WHERE subject = $1`, [made]);
    const [speed] = (await viewSpeeds(context)).encoding;
    expect(speed).toMatchObject({ codec: 'h264', effort: 'fast', encodes: 1 });
    const { seconds, unknown, doneAt } = await left();
    expect(unknown).toBe(0);
    // As many frames, and as many bits since nothing was sounded.
    expect(seconds).toBeGreaterThan(39 + STARTING_SECONDS + STARTING_CHECKS_SECONDS);
    expect(seconds).toBeLessThan(42 + STARTING_SECONDS + STARTING_CHECKS_SECONDS);
    expect(Date.parse(doneAt!)).toBeCloseTo(context.now().getTime() + seconds * 1000, -3);
    await order();
    expect((await left()).seconds).toBeCloseTo(2 * seconds, 6);
    const more = await viewWorkWith(context, { seconds: 50, unknown: 1 }, await viewSpeeds(context));
    expect(more).toMatchObject({ unknown: 1 });
    expect(more.seconds).toBeCloseTo(2 * seconds + 50, 6);
  });

  it('goes by what a rendition says itself once it runs, and leaves out what is held', async () => {
    const before = (await left()).seconds;
    const running = await order();
    await sql(`UPDATE rendition SET state = 'running', seconds_left = 100 WHERE id = $1`, [running]);
    expect((await left()).seconds).toBeCloseTo(before + 100, 6);
    await sql(`UPDATE job SET held = true WHERE subject = $1`, [running]);
    const { seconds, paused, doneAt } = await left();
    expect(seconds).toBeCloseTo(before, 6);
    expect([paused, doneAt]).toEqual([1, null]);
  });

  it('of a batch is what comes until its last is done', async () => {
    const before = (await left()).seconds;
    await order('one');
    const ofOne = (await left('one')).seconds;
    expect(ofOne).toBeGreaterThan(before);
    await order();
    expect((await left('one')).seconds).toBeCloseTo(ofOne, 6);
    expect((await left()).seconds).toBeGreaterThan(ofOne);
    // What stands still is of another, which does not wait for it.
    expect(await left('one')).toMatchObject({ paused: 0, doneAt: expect.any(String) });
    await sql(`UPDATE job SET held = false`);
    await sql(`UPDATE rendition SET state = 'queued', seconds_left = NULL WHERE state = 'running'`);
  });

  it('is done within the queue’s hours, sooner side by side, and nobody knows when while it is stopped', async () => {
    const { seconds } = await left();
    const { hours, minutes } = { hours: context.now().getHours(), minutes: context.now().getMinutes() };
    const opens = `${String((hours + 1) % 24).padStart(2, '0')}:${String(minutes).padStart(2, '0')}`;
    const closes = `${String((hours + 9) % 24).padStart(2, '0')}:${String(minutes).padStart(2, '0')}`;
    await writeQueueSettings(context, { ...AT_ANY_HOUR, hours: { from: opens, to: closes } });
    expect(Date.parse((await left()).doneAt!)).toBeCloseTo(context.now().getTime() + (3600 + seconds) * 1000, -3);
    await writeQueueSettings(context, { ...AT_ANY_HOUR, atOnce: 2 });
    expect(Date.parse((await left()).doneAt!)).toBeCloseTo(context.now().getTime() + seconds * 500, -3);
    for (const closed of [{ paused: true }, { whenIdle: true }]) {
      await writeQueueSettings(context, { ...AT_ANY_HOUR, ...closed });
      expect((await left()).doneAt).toBeNull();
    }
    await writeQueueSettings(context, AT_ANY_HOUR);
  });

  it('counts as unknown what was ordered before work was kept', async () => {
    const { seconds } = await left();
    const old = await order();
    await sql('UPDATE rendition SET work = NULL WHERE id = $1', [old]);
    const now = await left();
    expect(now.unknown).toBe(1);
    expect(now.seconds).toBeCloseTo(seconds, 6);
  });
});
