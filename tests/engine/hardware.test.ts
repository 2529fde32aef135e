import { chmodSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { pictureOf } from '../../src/core/plan/encodePlan.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

/** An engine that lists three hardware encoders, of which one gives frames, and another where they are brought to its device. */
function pretend(): string {
  const file = path.join(makeFolder(), 'ffmpeg');
  const list =
    ' V..... h264_nvenc  NVENC H.264\\n V..... hevc_vaapi  VAAPI HEVC\\n V..... h264_vaapi  VAAPI H.264\\n V..... libx264  x264\\n';
  const script = `#!/bin/sh\ncase "$*" in *-encoders*) printf '${list}';; *h264_nvenc*) exit 0;; *-vaapi_device*hwupload*h264_vaapi*) exit 0;; *) exit 1;; esac\n`;
  writeFileSync(file, script);
  chmodSync(file, 0o755);
  return file;
}

const ENGINE = { ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' };

describe('encoders in hardware', () => {
  it('are told with whether frames came out of them, which being listed does not say', async () => {
    const engine = createEngine({ ...ENGINE, ffmpeg: pretend() });
    expect(await engine.probeHardware()).toEqual([
      { codec: 'h264', kind: 'nvenc', works: true },
      { codec: 'hevc', kind: 'vaapi', works: false },
      { codec: 'h264', kind: 'vaapi', works: true },
    ]);
  });

  it('are none where there is no engine', async () => {
    expect(await createEngine({ ffmpeg: '/nowhere/ffmpeg', ffprobe: '/nowhere/ffprobe' }).probeHardware()).toEqual([]);
  });
});

describe('a rendition in hardware', () => {
  const folder = makeFolder();
  const engine = createEngine({ ...ENGINE, simulatesHardware: true });
  const recipeOf = (codec: string) => ({
    container: 'mp4',
    video: { codec, hardware: true, rate: { mode: 'average', kbps: 300, passes: 1 }, keyframes: { seconds: 1 } },
    audio: null,
  });
  const master = () =>
    draw(path.join(folder, 'master.mkv'), [
      ...['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=25:d=4', '-c:v', 'ffv1'],
      ...['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'],
    ]);

  it.each(['h264', 'hevc'])('of %s is made by the device, comes to its rate and passes its checks', async (codec) => {
    const { plan, checks, file } = await makeRendition(engine, folder, master(), recipeOf(codec));
    expect(pictureOf(plan)?.do).toMatchObject({ kind: 'encode', codec, hardware: true });
    expect(checks.filter(({ ok }) => !ok)).toEqual([]);
    const { groups } = await engine.listGroups(file, new AbortController().signal);
    const bits = groups.reduce((sum, group) => sum + group.bytes, 0) * 8;
    expect(bits / 4 / 300_000).toBeGreaterThan(0.75);
    expect(bits / 4 / 300_000).toBeLessThan(1.25);
    expect(Math.max(...groups.map(({ frames }) => frames))).toBeLessThanOrEqual(25);
  });

  it('says what to do where no device encodes it', async () => {
    const plain = createEngine(ENGINE);
    const works = (await plain.probeHardware()).some((one) => one.codec === 'h264' && one.works);
    const made = makeRendition(plain, folder, master(), recipeOf('h264'));
    // A machine that has one makes it.
    if (works) await expect(made).resolves.toBeDefined();
    else await expect(made).rejects.toMatchObject({ code: 'hardware-missing' });
  });
});
