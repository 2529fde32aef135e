import { execFileSync } from 'node:child_process';
import { statSync } from 'node:fs';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { pictureOf } from '../../src/core/plan/encodePlan.ts';
import { RATED, RATED_CODECS } from '../../src/core/video/codecs.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeRendition } from '../support/encode.ts';
import { drawMaster, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
let master = '';

const RATE = 25;
const FRAMES = 6 * RATE;

/** Where the programme's portions begin: one at its first frame, which is a keyframe anyway. */
const INS = [118, 0, 7, 61, 62];

/** Two that begin on neighbouring frames share a keyframe. */
const MARKED = [0, 7, 61, 118];

/** Codecs whose encoders put keyframes where they are told to. */
const TAKING = RATED_CODECS.filter((codec) => RATED[codec].fine.marks);

beforeAll(() => {
  master = drawMaster(path.join(folder, 'master.mov'), { seconds: 6, rate: String(RATE), size: '160x90', grain: 20 });
});

/** The frames of a file that are keyframes, from 0. */
function keyframesOf(file: string): number[] {
  const args = ['-v', 'error', '-select_streams', 'v:0', '-show_entries', 'packet=pts_time,flags', '-of', 'csv=p=0'];
  const packets = execFileSync('ffprobe', [...args, file], { encoding: 'utf8' })
    .trim()
    .split('\n')
    .map((line) => line.split(','));
  const frames = packets.map(([time]) => Math.round(Number(time) * RATE));
  const first = Math.min(...frames);
  return frames.flatMap((frame, index) => (packets[index]?.[1]?.startsWith('K') ? [frame - first] : []));
}

function recipe(codec: string, rate: object, more: object = {}) {
  const container = RATED[codec as 'h264'].containers[0];
  const video = { codec, rate, effort: 'fast', keyframesAtPortions: true, keyframesAtScenes: true, ...more };
  return { container, video, audio: null };
}

describe('keyframes where portions begin', () => {
  it.each(TAKING)('%s has them in the whole and in a portion, and no others but its own', async (codec) => {
    const wanted = recipe(codec, { mode: 'quality', value: 30 });
    const whole = await makeRendition(engine, folder, master, wanted, null, INS);
    expect(whole.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(keyframesOf(whole.file)).toEqual(MARKED);
    const portion = { inFrame: 50, outFrame: 129 };
    const part = await makeRendition(engine, folder, master, wanted, portion, INS);
    expect(keyframesOf(part.file)).toEqual([0, 11, 68]);
  });

  it.each(TAKING)('%s has them beside the regular ones where a size is filled', async (codec) => {
    const cap = 60_000;
    const made = await makeRendition(engine, folder, master, recipe(codec, { mode: 'size', bytes: cap }), null, INS);
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    const picture = pictureOf(made.plan);
    const interval = picture?.do.kind === 'encode' ? picture.do.keyframeInterval : 0;
    const regular = Array.from({ length: Math.ceil(FRAMES / interval) }, (_, index) => index * interval);
    expect(keyframesOf(made.file)).toEqual([...new Set([...regular, ...MARKED])].sort((a, b) => a - b));
    expect(statSync(made.file).size).toBeLessThanOrEqual(cap);
    expect(statSync(made.file).size).toBeGreaterThan(cap * 0.98);
  });

  it('are refused by name where the encoder keeps to a distance of its own', async () => {
    const wanted = recipe('av1', { mode: 'quality', value: 40 });
    await expect(makeRendition(engine, folder, master, wanted, null, INS)).rejects.toThrow(
      'The AV1 encoder takes no keyframes at given frames; leave it to the encoder.',
    );
  });
});
