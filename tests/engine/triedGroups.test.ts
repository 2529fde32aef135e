import { mkdirSync, statSync } from 'node:fs';
import { open } from 'node:fs/promises';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { isEncoded, pictureOf } from '../../src/core/plan/encodePlan.ts';
import { planRendition } from '../../src/core/plan/planRendition.ts';
import { atQuality, plainVideo, STARTING_RECIPE } from '../../src/core/recipe/recipe.ts';
import { RATED, RATED_CODECS, VIDEO_CODECS, type RatedCodec } from '../../src/core/video/codecs.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import type { Context } from '../../src/server/context.ts';
import { fingerprintFile } from '../../src/server/programmes/fingerprint.ts';
import type { ProgrammeRow } from '../../src/server/programmes/programmes.ts';
import { openJournal } from '../../src/server/runner/journal.ts';
import { createPictureEncoder, takeSpan } from '../../src/server/runner/pictureEncoder.ts';
import { groupsOf } from '../../src/server/trials/costs.ts';
import { areAlike, tryGroup } from '../../src/server/trials/tryGroup.ts';
import { lookAtFile } from '../support/analyse.ts';
import { draw, makeFolder } from '../support/footage.ts';

const folder = makeFolder();
const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const { signal } = new AbortController();

/** Three seconds that differ, so that what came before a group matters. */
const master = draw(path.join(folder, 'three.mov'), [
  ...['-f', 'lavfi', '-i', "testsrc2=s=160x90:r=25:d=3,noise=c0s='12':c0f=t:enable='between(t,0,1)',format=yuv420p"],
  ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '8', '-colorspace', 'bt709'],
  ...['-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'],
]);

let looked: Awaited<ReturnType<typeof lookAtFile>>;
beforeAll(async () => {
  looked = await lookAtFile(master);
});

async function fingerprintOf(): Promise<string> {
  const handle = await open(master);
  try {
    return await fingerprintFile(handle);
  } finally {
    await handle.close();
  }
}

function planOf(codec: RatedCodec) {
  const video = { ...plainVideo(codec, atQuality(RATED[codec].quality.usual), 'fast'), keyframes: { seconds: 1 } };
  const outcome = planRendition({
    ...looked,
    recipe: { ...STARTING_RECIPE, container: 'matroska', video, audio: null },
    portion: null,
    encoders: VIDEO_CODECS,
    sounding: null,
  });
  if (!outcome.ok) throw new Error(outcome.problems[0]?.message);
  const picture = pictureOf(outcome.plan);
  if (!picture || !isEncoded(picture)) throw new Error('Expected a picture that is encoded.');
  return { plan: outcome.plan, picture };
}

async function encodeWhole(codec: RatedCodec, quality = RATED[codec].quality.usual) {
  const { picture } = planOf(codec);
  const workingFolder = path.join(folder, `whole-${codec}-${quality}`);
  mkdirSync(workingFolder);
  const output = path.join(workingFolder, 'whole.mkv');
  const job = {
    ...{
      engine,
      source: master,
      ...looked,
      workingFolder,
      signal,
      container: 'matroska' as const,
      hold: null,
      labels: null,
    },
    temporary: () => output,
    journal: await openJournal(path.join(workingFolder, 'journal.json'), ''),
    enter: () => () => undefined,
  };
  await createPictureEncoder(job, picture, null).encodeSpan(
    { first: 0, count: picture.from.frameCount },
    quality,
    { fill: { level: '3.0' } },
    output,
  );
  return (await engine.listGroups(output, signal)).groups;
}

describe('a group of pictures that is tried', () => {
  it.each(RATED_CODECS)('comes out as in the whole in %s', async (codec) => {
    const { plan, picture } = planOf(codec);
    const context = {
      ...{
        engine,
        config: { dataFolder: path.join(folder, `data-${codec}`) },
        now: () => new Date(),
        newId: () => codec,
      },
      database: { transaction: (work: (query: () => Promise<[]>) => Promise<void>) => work(() => Promise.resolve([])) },
    } as unknown as Context;
    const programme = {
      ...{ id: codec, path: master, facts: looked.facts, modified_at: statSync(master).mtime },
      fingerprint: await fingerprintOf(),
    } as ProgrammeRow & { readonly fingerprint: string };
    const { usual, worst } = RATED[codec].quality;
    const trying = { programme, clock: looked.clock, plan, picture, quality: usual };
    const [, middle] = groupsOf(picture);
    const [alone] = await tryGroup(context, [trying], middle!, signal);
    const coarser = { ...trying, quality: Math.round((usual + worst) / 2) };
    const [tried, other] = areAlike(picture, picture)
      ? await tryGroup(context, [trying, coarser], middle!, signal)
      : [alone, null];
    // Beside another in one decode it comes out the same.
    expect([tried?.bytes, tried?.frames]).toEqual([alone?.bytes, alone?.frames]);
    if (other) expect(other.bytes).toBeLessThan(alone!.bytes);
    const whole = await encodeWhole(codec);
    expect(whole.map(({ frames }) => frames)).toEqual([25, 25, 25]);
    expect(alone?.frames).toHaveLength(25);
    // Alone, without frames around it, it lay up to 9 % off (measured).
    expect(Math.abs(alone!.bytes / whole[1]!.bytes - 1)).toBeLessThan(0.05);
  });

  it('and its neighbours are told apart by two quick encodes, the grainy one as the dearest', async () => {
    const workingFolder = path.join(folder, 'quick');
    mkdirSync(workingFolder);
    const options = { workingFolder, signal, onProgress: () => undefined };
    const [fine, coarse] = await engine.weighGroups(
      planOf('h264').picture,
      { keyframeInterval: 25, lead: 0 },
      master,
      options,
    );
    expect([fine.length, coarse.length]).toEqual([3, 3]);
    fine.forEach((group, index) => {
      expect(group.bytes).toBeGreaterThan(coarse[index]!.bytes);
      expect(group.ssimLoss).toBeLessThan(coarse[index]!.ssimLoss);
      expect(group.mse).toBeLessThan(coarse[index]!.mse);
    });
    expect(Math.max(...fine.map(({ bytes }) => bytes))).toBe(fine[0]!.bytes);
  });

  it('are weighed by themselves as they are among the others', async () => {
    const workingFolder = path.join(folder, 'part');
    mkdirSync(workingFolder);
    const options = { workingFolder, signal, onProgress: () => undefined };
    const { picture } = planOf('h264');
    const weigh = (first: number, lead: number) => {
      const part = takeSpan(looked, picture, { first: first - lead, count: picture.out.frameCount - first + lead });
      return engine.weighGroups(part, { keyframeInterval: 25, lead }, master, options);
    };
    const [whole, part] = [await weigh(0, 0), await weigh(25, 15)];
    for (const kind of [0, 1] as const) {
      expect(part[kind]).toHaveLength(2);
      part[kind].forEach((group, index) => {
        expect(Math.abs(group.bytes / whole[kind][index + 1]!.bytes - 1)).toBeLessThan(0.06);
      });
    }
  });

  // Common practice, no source: six steps of this encoder's quality change the rate by about a factor of two.
  it('takes about half as much six steps coarser in H.264', async () => {
    const sizeAt = async (quality: number) =>
      (await encodeWhole('h264', quality)).reduce((sum, { bytes }) => sum + bytes, 0);
    const ratio = (await sizeAt(24)) / (await sizeAt(30));
    expect(ratio).toBeGreaterThan(1.6);
    expect(ratio).toBeLessThan(2.6);
  });
});
