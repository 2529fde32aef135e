import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Check } from '../../src/contract/views.ts';
import type { ProgrammeFacts } from '../../src/core/programme/facts.ts';
import type { FrameClock } from '../../src/core/timing/frameClock.ts';
import type { EncodePlan } from '../../src/core/plan/encodePlan.ts';
import { planRendition } from '../../src/core/plan/planRendition.ts';
import { STARTING_RECIPE } from '../../src/core/recipe/recipe.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { checkResult } from '../../src/server/runner/checkResult.ts';
import { lookAtFile } from '../support/analyse.ts';
import { draw, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const master = path.join(folder, 'master.mov');
const TAGS_709 = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'];
const TAGS_601 = [
  '-colorspace',
  'smpte170m',
  '-color_primaries',
  'smpte170m',
  '-color_trc',
  'smpte170m',
  '-color_range',
  'tv',
];
const CODED = [
  '-c:v',
  'libx264',
  '-preset',
  'ultrafast',
  '-crf',
  '16',
  '-pix_fmt',
  'yuv420p',
  '-c:a',
  'aac',
  '-b:a',
  '128k',
  '-ar',
  '48000',
  '-ac',
  '2',
];

let facts: ProgrammeFacts;
let clock: FrameClock;
let plan: EncodePlan;

beforeAll(async () => {
  // Where the colours lie is stated: left to chance, a matrix sometimes made less than a visible difference.
  draw(master, [
    ...[
      '-f',
      'lavfi',
      '-i',
      'gradients=s=640x360:r=25:d=4:c0=0xd02020:c1=0x20a030:n=2:seed=7:x0=0:y0=0:x1=640:y1=360,format=yuv420p',
    ],
    ...['-f', 'lavfi', '-i', 'sine=frequency=440:sample_rate=48000:duration=4'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '6', '-c:a', 'pcm_s16le', ...TAGS_709],
  ]);
  ({ facts, clock } = await lookAtFile(master));
  const outcome = planRendition({
    facts,
    clock,
    recipe: STARTING_RECIPE,
    portion: null,
    encoders: ['h264', 'aac'],
    sounding: null,
  });
  if (!outcome.ok) throw new Error('The plan was refused.');
  plan = outcome.plan;
});

/** Makes a result by hand with one thing wrong, and names the checks that fail. */
async function failing(name: string, args: readonly string[]): Promise<string[]> {
  const result = draw(path.join(folder, `${name}.mp4`), ['-i', master, ...CODED, ...args]);
  const decoded = (await engine.inspect(result)).tallies.get(0)?.packets ?? 0;
  const checks: Check[] = await checkResult({
    engine,
    plan,
    facts,
    clock,
    source: master,
    brief: null,
    result,
    workingFolder: folder,
    decodedFrames: decoded,
    signal: new AbortController().signal,
  });
  return checks.filter((check) => !check.ok).map((check) => check.name);
}

describe('the checks of a result', () => {
  it('pass a good one', async () => {
    expect(await failing('good', TAGS_709)).toEqual([]);
  });

  it('pass one coded very coarsely', async () => {
    expect(await failing('coarse', [...TAGS_709, '-crf', '50'])).toEqual([]);
  });

  it('find pixels of another matrix than the tags say', async () => {
    const convert = 'scale=in_color_matrix=bt709:out_color_matrix=smpte170m,setparams=colorspace=bt709';
    expect(await failing('tint', ['-vf', convert, ...TAGS_709])).toEqual(['Colour of the pixels by their tags']);
  });

  it('find tags of another matrix than the pixels', async () => {
    expect(await failing('retagged', TAGS_601)).toEqual(['Colour tags', 'Colour of the pixels by their tags']);
  });

  it('find full range called limited', async () => {
    const convert = 'scale=in_range=tv:out_range=pc,setparams=range=tv';
    expect(await failing('range', ['-vf', convert, ...TAGS_709])).toContain('Colour of the pixels by their tags');
  });

  it('find missing frames', async () => {
    expect(await failing('short', [...TAGS_709, '-vf', 'trim=end_frame=90'])).toEqual(
      expect.arrayContaining(['Frames', 'Length']),
    );
  });

  it('find sound that starts late', async () => {
    expect(await failing('late', [...TAGS_709, '-af', 'asetpts=PTS+0.2/TB'])).toContain(
      'Sound begins with the picture',
    );
  });

  it('find sound that ends early', async () => {
    expect(await failing('early', [...TAGS_709, '-af', 'atrim=end=3.5'])).toEqual(['Sound ends with the picture']);
  });

  it('find missing sound', async () => {
    expect(await failing('silent', [...TAGS_709, '-an'])).toContain('Opens');
  });

  it('find another frame size', async () => {
    expect(await failing('small', [...TAGS_709, '-s', '320x180'])).toContain('Frame size');
  });
});
