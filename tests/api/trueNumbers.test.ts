import { mkdirSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { soundingOf } from '../../src/contract/sounding.ts';
import type { ErrorBody, PlanView, ProgrammeView, RenditionView } from '../../src/contract/views.ts';
import { draw, drawMaster, spoilMiddle } from '../support/footage.ts';
import { makeFolders, startServer, type TestServer } from '../support/server.ts';

const folders = makeFolders();
const inMedia = (name: string) => path.join(folders.media, name);
const SECOND = 25;
let server: TestServer;
let programme: ProgrammeView;

/** Twenty seconds of a card, then ten of noise, then ten of a card again. */
beforeAll(async () => {
  mkdirSync(folders.media, { recursive: true });
  const card = (seconds: number) => `smptehdbars=s=320x180:r=25:d=${seconds},format=yuv420p`;
  const busy = 'testsrc2=s=320x180:r=25:d=10,noise=c0s=40:c0f=t,format=yuv420p';
  draw(inMedia('mixed.mov'), [
    ...['-f', 'lavfi', '-i', card(20), '-f', 'lavfi', '-i', busy, '-f', 'lavfi', '-i', card(10)],
    ...['-filter_complex', '[0][1][2]concat=n=3:v=1:a=0[v]', '-map', '[v]'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '8'],
  ]);
  server = await startServer(folders);
  programme = await server.takeIn(inMedia('mixed.mov'));
});
afterAll(() => server.end('SIGTERM'));

const PORTIONS = {
  'a card': { inFrame: SECOND, outFrame: 19 * SECOND },
  'a busy stretch': { inFrame: 21 * SECOND, outFrame: 29 * SECOND },
  'a long card at the end': { inFrame: 31 * SECOND, outFrame: 40 * SECOND - 1 },
} as const;

async function plan(rate: object, portion: object | null): Promise<PlanView> {
  const recipe = { video: { codec: 'h264', rate, effort: 'fast' }, audio: null };
  const request = { programmeId: programme.id, recipe, portion };
  return (await server.call<PlanView>('POST', 'plan', request)).body;
}

async function sound(portion: object): Promise<void> {
  const asked = { codec: 'h264', width: 320, height: 180, portion };
  await vi.waitUntil(
    async () => (await server.call('POST', `programmes/${programme.id}/sounding`, asked)).status === 200,
    { timeout: 60_000, interval: 100 },
  );
}

describe('the expected size of a portion', () => {
  it.each(Object.entries(PORTIONS))('is measured in it: %s', async (_name, portion) => {
    const quality = { mode: 'quality', value: 24 };
    await sound(portion);
    const { expectedRange, durationSeconds } = await plan(quality, portion);
    const { body } = await server.call<RenditionView>('POST', 'renditions', {
      programmeId: programme.id,
      recipe: { video: { codec: 'h264', rate: quality, effort: 'fast' }, audio: null },
      portion,
    });
    const made = await server.waitFor(body.id);
    expect(made.state).toBe('done');
    expect(made.bytes).toBeGreaterThanOrEqual(expectedRange!.low);
    expect(made.bytes).toBeLessThanOrEqual(expectedRange!.high);
    expect(made.plan.span.seconds).toBe(durationSeconds);
  });

  it.each([
    [
      'a ProRes',
      { container: 'mov', video: { codec: 'prores', flavour: 'standard' }, audio: null },
      PORTIONS['a busy stretch'],
      0.1,
    ],
    [
      'an FFV1',
      { container: 'matroska', video: { codec: 'ffv1' }, audio: null },
      PORTIONS['a long card at the end'],
      0.1,
    ],
    // A third of it is noise: few places cannot tell how much.
    ['an FFV1 of the whole', { container: 'matroska', video: { codec: 'ffv1' }, audio: null }, null, 1.5],
  ] as const)(
    'is measured in %s, frame by frame, where nothing but the codec told it before',
    async (_, recipe, portion, widest) => {
      const request = { programmeId: programme.id, recipe, portion };
      const guessed = (await server.call<PlanView>('POST', 'plan', request)).body;
      expect(guessed.expectedRange!.high).toBeGreaterThan(5 * guessed.expectedRange!.low);
      const asked = soundingOf(programme, guessed.recipe, portion);
      await vi.waitUntil(
        async () => (await server.call('POST', `programmes/${programme.id}/sounding`, asked)).status === 200,
        { timeout: 60_000, interval: 100 },
      );
      const { expectedRange, expectedBytes } = (await server.call<PlanView>('POST', 'plan', request)).body;
      expect(expectedRange!.high / expectedBytes!).toBeLessThan(1 + widest);
      const made = await server.waitFor((await server.call<RenditionView>('POST', 'renditions', request)).body.id);
      expect(made.state).toBe('done');
      expect(made.bytes).toBeGreaterThanOrEqual(expectedRange!.low);
      expect(made.bytes).toBeLessThanOrEqual(expectedRange!.high);
    },
  );

  it('is measured with the second picture that carries transparency', async () => {
    const noise = 'testsrc2=s=160x90:r=25:d=3,format=yuva444p10,geq=lum=p(X\\,Y):cb=512:cr=512:a=random(1)*1023';
    draw(inMedia('clear.mov'), ['-f', 'lavfi', '-i', noise, '-c:v', 'prores_ks', '-profile:v', '4444']);
    const clear = await server.takeIn(inMedia('clear.mov'));
    const video = { codec: 'vp9', rate: { mode: 'quality', value: 32 }, effort: 'fast' };
    const measured = async (alpha: boolean) => {
      const request = {
        programmeId: clear.id,
        recipe: { container: 'webm', video: { ...video, alpha }, audio: null },
        portion: null,
      };
      const asked = soundingOf(clear, (await server.call<PlanView>('POST', 'plan', request)).body.recipe, null);
      await vi.waitUntil(
        async () => (await server.call('POST', `programmes/${clear.id}/sounding`, asked)).status === 200,
        { timeout: 60_000, interval: 100 },
      );
      return { request, plan: (await server.call<PlanView>('POST', 'plan', request)).body };
    };
    const without = (await measured(false)).plan.expectedBytes!;
    const { request, plan: foreseen } = await measured(true);
    expect(foreseen.expectedBytes).toBeGreaterThan(3 * without);
    const made = await server.waitFor((await server.call<RenditionView>('POST', 'renditions', request)).body.id);
    expect(made).toMatchObject({ state: 'done' });
    expect(made.bytes).toBeGreaterThanOrEqual(foreseen.expectedRange!.low);
    expect(made.bytes).toBeLessThanOrEqual(foreseen.expectedRange!.high);
  });

  it('says of a card’s cap that it does not bind, by the card and not by the whole', async () => {
    const { budget, expectedBytes, expectedRange } = await plan({ mode: 'size', bytes: 5_000_000 }, PORTIONS['a card']);
    expect(budget.binds).toBe('finest-quality');
    expect(expectedBytes).toBeLessThan(1_500_000);
    expect(expectedRange!.high).toBeLessThan(5_000_000);
  });

  it('is not promised to fill a size before anything was measured', async () => {
    const unmeasured = { inFrame: 3, outFrame: 40 };
    const { expectedRange } = await plan({ mode: 'size', bytes: 500_000 }, unmeasured);
    expect(expectedRange!.high).toBe(500_000);
    expect(expectedRange!.low).toBeLessThan(50_000);
  });
});

describe('a frame that cannot be read', () => {
  it('is answered with the reason, not as a fault of the server', async () => {
    const file = drawMaster(inMedia('spoilt.mov'), { seconds: 6, extra: ['-g', '250'] });
    spoilMiddle(file, 300_000);
    const { id, frameCount } = await server.takeIn(file);
    const statuses = new Set<number>();
    for (let frame = 0; frame < frameCount; frame += 10) {
      const answer = await fetch(`${server.address}/api/programmes/${id}/frames/${frame}`);
      statuses.add(answer.status);
      if (answer.status !== 200) expect(((await answer.json()) as ErrorBody).error.message).toMatch(/\.$/);
    }
    for (const status of statuses) expect([200, 422]).toContain(status);
  });
});
