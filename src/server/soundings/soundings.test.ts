import { describe, expect, it } from 'vitest';
import type { SoundingRequest } from '../../contract/sounding.ts';
import { ROUGH_ERROR, type Sounding } from '../../core/sounding/sounding.ts';
import type { Engine } from '../../engine/engine.ts';
import * as analyses from '../../store/statements/analyses.ts';
import { factsOf } from '../../testing/facts.ts';
import { makeFakeProgramme } from '../../testing/fakeProgramme.ts';
import { soundBefore, viewSounding } from './soundings.ts';

const SECONDS = 3600;
const REQUEST: SoundingRequest = {
  ...{ codec: 'h264', width: 640, height: 360, portion: null },
  ...{ stored: null, alpha: false, deinterlace: null, crop: null, frameRate: null },
};
const signal = new AbortController().signal;

/** Seconds of it that move; all else stands still. */
const isBusy = (second: number) => second >= 1000 && second < 1400;

/** An hour on an engine that encodes nothing, and notes the frames it was asked for. */
async function prepare() {
  const asked: number[] = [];
  const gauge: Engine['gauge'] = ({ from, out }, how) => {
    asked.push(from.inFrame);
    const bytes = isBusy(from.inFrame / 25) ? 9000 : 500;
    const frames = Array.from({ length: out.frameCount }, () => bytes);
    return Promise.resolve(
      ('qualities' in how ? how.qualities : [0]).map((_, index) => frames.map((one) => one / (index + 1))),
    );
  };
  const facts = factsOf({ frameCount: SECONDS * 25, durationSeconds: SECONDS, bytes: 500_000 });
  const { context, programmeId: id } = await makeFakeProgramme(facts, { gauge });
  /** What an analysis finds of it. */
  const analyse = async () => {
    const bits = Array.from({ length: SECONDS }, (_, second) => (isBusy(second) ? 900 : 50));
    const findings = JSON.stringify({ busyness: { stepSeconds: 1, bits } });
    await context.database.query(analyses.ASK_ANALYSIS, [id, context.now()]);
    await context.database.query(analyses.FINISH_ANALYSIS, [id, findings, 1]);
  };
  const measure = async () => {
    await soundBefore(context, id, REQUEST, signal);
    return (await viewSounding(context, id, REQUEST)) as Sounding;
  };
  return { context, asked, analyse, measure };
}

describe('a sounding of an hour', () => {
  it('is rough before anyone knows how busy it is where, and then made again from calm to busy, once', async () => {
    const { context, asked, analyse, measure } = await prepare();
    const rough = await measure();
    expect(rough).toMatchObject({ isRough: true, error: ROUGH_ERROR });
    const evenly = asked.length;
    await measure();
    expect(asked).toHaveLength(evenly);

    await analyse();
    const { points, error, isRough } = await measure();
    expect([error, isRough]).toEqual([undefined, undefined]);
    const again = asked.slice(evenly);
    expect(again.length).toBeGreaterThan(evenly);
    // A ninth of it moves.
    const share = again.filter((frame) => isBusy(frame / 25)).length / again.length;
    expect(share).toBeCloseTo(400 / SECONDS, 1);
    const real = (400 * 9000 + 3200 * 500) / SECONDS;
    // Of thirty-two stretches three or four move.
    const told = points[0]!.bitsPerSecond / (real * 8 * 25);
    expect(Math.abs(told - 1)).toBeLessThan(0.2);
    await measure();
    expect(asked).toHaveLength(evenly + again.length);
    await context.database.close();
  });
});
