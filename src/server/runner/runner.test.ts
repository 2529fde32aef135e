import { describe, expect, it } from 'vitest';
import { EVEN_PACE } from '../../core/forecast/pace.ts';
import { overallFraction, secondsLeft, weighStages, type StageName } from './progress.ts';
import { createStageReporter, type Position } from './stageReporter.ts';

const WEIGHTS = weighStages([], 0.4, null);

describe('the whole of a rendition', () => {
  it('grows from 0 to 1 through its stages', () => {
    const stages = ['sound', 'analysis', 'encode', 'checking'] as const;
    const steps = stages.flatMap((_, index) =>
      [0, 0.5, 1].map((share) => overallFraction(WEIGHTS, stages, index, share)),
    );
    expect(steps[0]).toBe(0);
    expect(steps.at(-1)).toBe(1);
    expect(steps).toEqual(steps.toSorted((a, b) => a - b));
  });

  it('gives checks the share they took before, also where a size is measured on its way', () => {
    const once = weighStages(['encode'], 1, { likely: 100, checking: 20 });
    expect(once.checking / once.encode).toBeCloseTo(20 / 80, 9);
    const twice = weighStages(['analysis', 'encode'], 0.4, { likely: 100, checking: 20 });
    expect(twice.checking / (twice.analysis + twice.encode)).toBeCloseTo(20 / 80, 9);
    const filling = weighStages(['encode', 'checking', 'correction'], 1, { likely: 100, checking: 20 });
    expect(filling.checking / (filling.encode + filling.checking + filling.correction)).toBeCloseTo(20 / 80, 9);
    const nothing = weighStages(['copy'], 1, { likely: 0.6, checking: 0.6 });
    expect(nothing.checking).toBe(WEIGHTS.checking);
  });

  it('says nothing about the time left too early', () => {
    expect(secondsLeft(0.01, 5, null)).toBeNull();
    expect(secondsLeft(0.25, 10, null)).toBe(30);
  });

  it('goes at first by what others of its kind took, and later by how it goes itself', () => {
    expect(secondsLeft(0, 2, 60)).toBe(58);
    // A tenth after 4 s would make 40 in all; most of what was learned counts.
    expect(secondsLeft(0.1, 4, 60)).toBeCloseTo(0.9 * (0.1 * 40 + 0.9 * 60), 9);
    expect(secondsLeft(0.9, 72, 60)).toBeCloseTo(0.1 * (0.9 * 80 + 0.1 * 60), 9);
    expect(secondsLeft(1, 75, 60)).toBe(0);
  });
});

describe('the position', () => {
  function follow(usual: readonly StageName[] = []) {
    const positions: Position[] = [];
    let now = 0;
    const reporter = createStageReporter(
      { planned: ['sound', 'analysis', 'encode'], usual, firstPass: 0.4, expected: null, pace: EVEN_PACE },
      () => now,
      (position) => positions.push(position),
    );
    return { positions, reporter, tick: (ms: number) => (now += ms) };
  }

  it('names the pass, adds a correction when one comes, and checks after the last', () => {
    const { positions, reporter } = follow();
    for (const stage of ['sound', 'analysis', 'encode', 'correction', 'checking'] as const) reporter.enter(stage, 100);
    expect(positions.map(({ stage, pass, passes }) => `${stage} ${pass}/${passes}`)).toEqual([
      'sound 1/3',
      'analysis 2/3',
      'encode 3/3',
      'correction 4/4',
      'checking 4/4',
    ]);
  });

  it('does not count what is measured on the way to a size', () => {
    const { positions, reporter } = follow();
    for (const stage of ['encode', 'checking', 'retouch', 'checking'] as const) reporter.enter(stage, 100);
    expect(positions.map(({ pass, passes }) => pass <= passes)).toEqual([true, true, true, true]);
    expect(positions.at(-1)).toMatchObject({ pass: 2, passes: 2 });
  });

  it('leaves room for what comes as a rule where a size is filled, and for no more than that', () => {
    const stages = ['sound', 'analysis', 'encode', 'checking', 'correction', 'retouch', 'checking'] as const;
    const { positions, reporter } = follow(['checking', 'correction', 'retouch']);
    for (const stage of stages) reporter.enter(stage, 100)({ frame: 100, framesPerSecond: 50, outSeconds: 100 });
    const ends = positions.filter((_, index) => index % 2 === 1);
    const expected = stages.map((_, index) => overallFraction(WEIGHTS, [...stages], index, 1));
    ends.forEach(({ fraction }, index) => expect(fraction).toBeCloseTo(expected[index]!, 9));
    expect(ends.map(({ pass, passes }) => `${pass}/${passes}`)).toEqual([
      '1/3',
      '2/3',
      '3/3',
      '3/3',
      '4/4',
      '5/5',
      '5/5',
    ]);
  });

  it('counts sound in seconds and pictures in frames', () => {
    const { positions, reporter, tick } = follow();
    const sound = reporter.enter('sound', 10);
    sound({ frame: 0, framesPerSecond: 0, outSeconds: 5 });
    const half = positions.at(-1)!;
    expect(half.framesPerSecond).toBeNull();
    expect(half.fraction).toBeCloseTo(overallFraction(WEIGHTS, ['sound', 'analysis', 'encode', 'checking'], 0, 0.5), 9);
    const analysis = reporter.enter('analysis', 200);
    tick(4000);
    analysis({ frame: 100, framesPerSecond: 50, outSeconds: null });
    expect(positions.at(-1)).toMatchObject({ framesPerSecond: 50, stage: 'analysis' });
    expect(positions.at(-1)!.secondsLeft).toBeGreaterThan(0);
  });
});
