import { execFileSync } from 'node:child_process';
import { statSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { planRendition } from '../../src/core/plan/planRendition.ts';
import { plainVideo, STARTING_RECIPE } from '../../src/core/recipe/recipe.ts';
import { bitsPerSecond } from '../../src/core/units.ts';
import { pictureOf, soundsOf, type EncodedPicture } from '../../src/core/plan/encodePlan.ts';
import { readFrames } from '../../src/core/plan/planPicture.ts';
import type { JoinSource } from '../../src/engine/arguments/join.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { areAlike } from '../../src/engine/parsing/groups.ts';
import { lookAtFile } from '../support/analyse.ts';
import { drawMaster, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });

/** From this level on HEVC has two tiers, of which encoders choose by the kind of rate where they are left to. */
const LEVEL = { level: '4.0' };

/** A digest of every decoded frame. */
function digestsOf(file: string): string[] {
  const listed = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-map', '0:v', '-f', 'framemd5', '-'], {
    encoding: 'utf8',
  });
  return listed
    .split('\n')
    .filter((line) => line && !line.startsWith('#'))
    .map((line) => line.split(',').at(-1)!.trim());
}

function timesOf(file: string): string {
  const entries = 'packet=pts_time,dts_time,flags';
  return execFileSync('ffprobe', ['-v', 'error', '-select_streams', 'v', '-show_entries', entries, file], {
    encoding: 'utf8',
  });
}

describe('groups of pictures joined at keyframes', () => {
  it.each(['h264', 'hevc'] as const)('%s: every frame is that of the file it was taken from', async (codec) => {
    const folder = makeFolder();
    const master = drawMaster(path.join(folder, 'master.mov'), {
      seconds: 8,
      rate: '30000/1001',
      grain: 30,
      size: '160x90',
    });
    const { facts, clock } = await lookAtFile(master);
    const outcome = planRendition({
      facts,
      clock,
      recipe: { ...STARTING_RECIPE, video: plainVideo(codec, { mode: 'size', bytes: 400_000 }, 'fast') },
      portion: null,
      encoders: ['h264', 'hevc', 'aac'],
      sounding: null,
    });
    if (!outcome.ok) throw new Error('Refused.');
    const planned = pictureOf(outcome.plan);
    const [sound] = soundsOf(outcome.plan);
    if (planned?.do.kind !== 'encode' || sound?.do.kind !== 'encode') throw new Error('Nothing to encode.');
    // A keyframe every two seconds gives an eight-second master four groups.
    const picture: EncodedPicture = { ...planned, do: { ...planned.do, keyframeInterval: 60 } };
    const signal = new AbortController().signal;
    const options = { workingFolder: folder, signal, onProgress: () => undefined };
    const soundFile = path.join(folder, 'sound.m4a');
    await engine.encodeSounds([{ ...sound, do: sound.do }], 'mp4', master, soundFile, options);
    const run = async (pass: 'first' | 'second', kbps: number, output: string | null) => {
      const files = {
        source: master,
        sound: output === null ? null : { file: soundFile, delaySeconds: 0 },
        container: 'mp4',
        output,
      } as const;
      const target = { kind: 'rate', rate: bitsPerSecond(kbps * 1000) } as const;
      await engine.encodePicture(picture, { target, pass, buffer: null, fill: LEVEL }, files, options);
    };
    await run('first', 300, null);
    const passes = [path.join(folder, 'a.mp4'), path.join(folder, 'b.mp4')];
    await run('second', 300, passes[0]!);
    await run('second', 240, passes[1]!);
    const [one, other] = await Promise.all(passes.map((pass) => engine.listGroups(pass, signal)));
    const { groups } = one!;
    expect(groups.length).toBeGreaterThanOrEqual(4);
    expect(areAlike(one!, other!)).toBe(true);

    // The last group but one is encoded again by itself, at a constant quality.
    const again = groups.length - 2;
    const firstOf = (index: number) => groups.slice(0, index).reduce((sum, { frames }) => sum + frames, 0);
    const span = { inFrame: firstOf(again), frameCount: groups[again]!.frames };
    const part = { ...picture, from: readFrames(facts, facts.video!, span, clock) };
    const alone = path.join(folder, 'alone.mp4');
    const what = { target: { kind: 'quality', value: 31.5 }, pass: 'only', buffer: null, fill: LEVEL } as const;
    const files = { source: master, sound: null, container: 'mp4', output: alone } as const;
    await engine.encodePicture(part, what, files, options);
    const itself = await engine.listGroups(alone, signal);
    expect(itself.settings).toBe(one!.settings);
    const bytesAlone = itself.groups.reduce((sum, group) => sum + group.bytes, 0);

    const chosen = groups.map((_, index) => (index === again ? 2 : Math.floor(index / 2 + 0.5) % 2));
    const sources = chosen.map((index): JoinSource =>
      index === 2 ? { file: alone, holds: 'this-group' } : { file: passes[index]!, holds: 'every-group' },
    );
    const output = path.join(folder, 'joined.mp4');
    await engine.joinGroups(
      { out: picture.out, container: 'mp4', sources, groups, sound: { file: soundFile, delaySeconds: 0 }, output },
      options,
    );

    expect(timesOf(output)).toBe(timesOf(passes[0]!));
    const [first, second, ofGroup, joined] = [...passes, alone, output].map(digestsOf);
    const expected = groups.flatMap((group, index) => {
      const from = firstOf(index);
      return index === again ? ofGroup! : (chosen[index] === 0 ? first! : second!).slice(from, from + group.frames);
    });
    expect(joined).toEqual(expected);
    expect(first).not.toEqual(second);
    // The tables weigh what they weigh in a pass, so the size is known before the file is written.
    const bytesOf = (index: number) => [groups[index]!.bytes, other!.groups[index]!.bytes, bytesAlone][chosen[index]!]!;
    const picked = groups.reduce((sum, _, index) => sum + bytesOf(index), 0);
    const own = groups.reduce((sum, { bytes }) => sum + bytes, 0);
    expect(statSync(output).size).toBe(statSync(passes[0]!).size - own + picked);
  });
});
