import { execFileSync } from 'node:child_process';
import { statSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { planRendition } from '../../src/core/plan/planRendition.ts';
import { plainVideo, STARTING_RECIPE } from '../../src/core/recipe/recipe.ts';
import { pictureOf, soundsOf, type EncodedPicture } from '../../src/core/plan/encodePlan.ts';
import { readFrames } from '../../src/core/plan/planPicture.ts';
import type { PictureFiles } from '../../src/engine/arguments/encode.ts';
import type { JoinSource } from '../../src/engine/arguments/join.ts';
import { RATED } from '../../src/core/video/codecs.ts';
import { MUXERS } from '../../src/engine/muxers/muxers.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { areAlike } from '../../src/engine/parsing/groups.ts';
import { lookAtFile } from '../support/analyse.ts';
import { drawMaster, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });

/** From this level on HEVC has two tiers, of which encoders choose by the kind of rate where they are left to. */
const LEVEL = { level: '4.0' };

/** Opus begins before 0, and its picture does not. */
const FILES = [
  ['h264', 'mp4', 'aac'],
  ['hevc', 'mp4', 'aac'],
  ['h264', 'matroska', 'opus'],
  ['vp9', 'webm', 'opus'],
  ['av1', 'matroska', 'opus'],
] as const;

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
  it.each(FILES)(
    '%s in %s with %s: every frame is that of the file it was taken from',
    async (codec, container, heard) => {
      const { extension } = MUXERS[container];
      const { quality: scale } = RATED[codec];
      const folder = makeFolder();
      const master = drawMaster(path.join(folder, 'master.mov'), {
        seconds: 6,
        rate: '30000/1001',
        grain: 30,
        size: '160x90',
      });
      const { facts, clock } = await lookAtFile(master);
      const outcome = planRendition({
        facts,
        clock,
        recipe: {
          ...STARTING_RECIPE,
          container,
          video: plainVideo(codec, { mode: 'size', bytes: 400_000 }, 'fast'),
          audio: { ...STARTING_RECIPE.audio!, codec: heard },
        },
        portion: null,
        encoders: [codec, heard],
        sounding: null,
      });
      if (!outcome.ok) throw new Error('Refused.');
      const planned = pictureOf(outcome.plan);
      const [sound] = soundsOf(outcome.plan);
      if (planned?.do.kind !== 'encode' || sound?.do.kind !== 'encode') throw new Error('Nothing to encode.');
      // A keyframe every second and a half gives a six-second master four groups.
      const picture: EncodedPicture = { ...planned, do: { ...planned.do, keyframeInterval: 45 } };
      const signal = new AbortController().signal;
      const options = { workingFolder: folder, signal, onProgress: () => undefined };
      const soundFile = path.join(folder, `sound.${extension}`);
      const sounds = [{ ...sound, do: sound.do }];
      await engine.encodeSounds({ sounds, container, source: master, output: soundFile, labels: null }, options);
      const beside = { file: soundFile, delaySeconds: 0 };
      /** What is analysed first is analysed at the usual quality, as a fill does. */
      const encode = async (what: EncodedPicture, value: number, sound: typeof beside | null, output: string) => {
        const run = (pass: 'first' | 'second' | 'only', at: number, to: Pick<PictureFiles, 'sound' | 'output'>) =>
          engine.encodePicture(
            what,
            { target: { kind: 'quality', value: at }, pass, buffer: null, fill: LEVEL },
            { source: master, container, labels: null, ...to },
            options,
          );
        const isTwice = scale.passes === 2;
        if (isTwice) await run('first', scale.usual, { sound: null, output: null });
        await run(isTwice ? 'second' : 'only', value, { sound, output });
      };
      const passes = ['a', 'b'].map((name) => path.join(folder, `${name}.${extension}`));
      for (const [index, pass] of passes.entries()) {
        await encode(picture, scale.usual + index * scale.tellingStep * 3, beside, pass);
      }
      const [one, other] = await Promise.all(passes.map((pass) => engine.listGroups(pass, signal)));
      const { groups } = one!;
      expect(groups.length).toBeGreaterThanOrEqual(4);
      expect(areAlike(one!, other!)).toBe(true);

      // The last group but one is encoded again by itself, at a constant quality.
      const again = groups.length - 2;
      const firstOf = (index: number) => groups.slice(0, index).reduce((sum, { frames }) => sum + frames, 0);
      const span = { inFrame: firstOf(again), frameCount: groups[again]!.frames };
      const part = { ...picture, from: readFrames(facts, facts.video!, span, clock) };
      const alone = path.join(folder, `alone.${extension}`);
      await encode(part, scale.usual + 1, null, alone);
      const itself = await engine.listGroups(alone, signal);
      expect(itself.settings).toBe(one!.settings);
      const bytesAlone = itself.groups.reduce((sum, group) => sum + group.bytes, 0);

      const chosen = groups.map((_, index) => (index === again ? 2 : Math.floor(index / 2 + 0.5) % 2));
      const sources = chosen.map((index): JoinSource =>
        index === 2 ? { file: alone, holds: 'this-group' } : { file: passes[index]!, holds: 'every-group' },
      );
      const output = path.join(folder, `joined.${extension}`);
      await engine.joinGroups(
        { out: picture.out, container, sources, groups, sound: beside, labels: null, output },
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
      // The tables weigh what they weigh in a pass, so the size is known before the file is written; of Matroska nearly so.
      const bytesOf = (index: number) =>
        [groups[index]!.bytes, other!.groups[index]!.bytes, bytesAlone][chosen[index]!]!;
      const picked = groups.reduce((sum, _, index) => sum + bytesOf(index), 0);
      const own = groups.reduce((sum, { bytes }) => sum + bytes, 0);
      const foreseen = statSync(passes[0]!).size - own + picked;
      expect(Math.abs(statSync(output).size - foreseen)).toBeLessThanOrEqual(container === 'mp4' ? 0 : 100);
    },
  );
});
