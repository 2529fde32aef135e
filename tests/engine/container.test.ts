import { readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import { createFile } from 'mp4box';
import { describe, expect, it } from 'vitest';
import { foreseeMp4ContainerBytes, mp4ContainerBytes } from '../../src/core/container/mp4Tables.ts';
import { pictureOf, soundsOf } from '../../src/core/plan/encodePlan.ts';
import { SOUND } from '../../src/core/sound/codecs.ts';
import { countPackets } from '../../src/core/sound/definition.ts';
import { VIDEO, type VideoCodec } from '../../src/core/video/codecs.ts';
import { planRendition } from '../../src/core/plan/planRendition.ts';
import { STARTING_RECIPE } from '../../src/core/recipe/recipe.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { openJournal } from '../../src/server/runner/journal.ts';
import { encodeRendition } from '../../src/server/runner/encodeRendition.ts';
import { lookAtFile } from '../support/analyse.ts';
import { drawMaster, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });

interface SampleTable {
  readonly boxes: readonly {
    readonly type: string;
    readonly size: number;
    readonly entries?: readonly { readonly boxes?: readonly { readonly type: string; readonly size: number }[] }[];
  }[];
}

/** Reads the tables with a library of its own (mp4box), so that the arithmetic is not checked against itself. */
function readTables(file: string) {
  const parsed = createFile();
  const data = readFileSync(file);
  const buffer = data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength) as ArrayBuffer & {
    fileStart: number;
  };
  buffer.fileStart = 0;
  parsed.appendBuffer(buffer as never);
  parsed.flush();
  const tracks = (
    parsed as unknown as { moov: { traks: { mdia: { hdlr: { handler: string }; minf: { stbl: SampleTable } } }[] } }
  ).moov.traks;
  return tracks.map((track) => {
    const table = track.mdia.minf.stbl;
    const size = (type: string) => table.boxes.find((box) => box.type === type)?.size ?? 0;
    const entry = table.boxes.find((box) => box.type === 'stsd')?.entries?.[0];
    const parameterSets = entry?.boxes?.find((box) => box.type === 'avcC' || box.type === 'hvcC')?.size ?? 0;
    const runs = (type: string, width: number) => (size(type) === 0 ? 0 : (size(type) - 16) / width);
    return {
      kind: track.mdia.hdlr.handler,
      samples: (size('stsz') - 20) / 4,
      keyframes: runs('stss', 4),
      durationRuns: runs('stts', 8),
      offsetRuns: runs('ctts', 8),
      chunks: runs('stco', 4),
      chunkRuns: runs('stsc', 12),
      parameterSetBytes: parameterSets,
    };
  });
}

const CASES: readonly (readonly [codec: VideoCodec, rate: string, seconds: number, withSound: boolean])[] = [
  ['h264', '25', 8, true],
  ['h264', '60000/1001', 5, true],
  ['h264', '24', 6, false],
  ['hevc', '25', 6, true],
  ['hevc', '30000/1001', 4, false],
];

describe('the container’s own bytes', () => {
  it.each(CASES)('%s at %s for %i s, sound %s', async (codec, rate, length, withSound) => {
    const folder = makeFolder();
    const master = drawMaster(path.join(folder, 'master.mov'), { seconds: length, rate });
    const { facts, clock } = await lookAtFile(master);
    const outcome = planRendition({
      facts,
      clock,
      recipe: {
        ...STARTING_RECIPE,
        video: { codec, effort: 'fast', rate: { mode: 'average', kbps: 400, passes: 1 } },
        audio: withSound ? STARTING_RECIPE.audio : null,
      },
      portion: null,
      encoders: ['h264', 'hevc', 'aac'],
      sounding: null,
    });
    if (!outcome.ok) throw new Error('The plan was refused.');
    const { plan } = outcome;
    const { file } = await encodeRendition({
      engine,
      plan,
      source: master,
      facts,
      clock,
      workingFolder: folder,
      temporary: (part) => path.join(folder, `part-${part}`),
      journal: await openJournal(path.join(folder, 'journal.json'), ''),
      signal: new AbortController().signal,
      enter: () => () => undefined,
    });
    const { tallies } = await engine.inspect(file);
    const payload = [...tallies.values()].reduce((sum, tally) => sum + tally.bytes, 0);
    const truth = statSync(file).size - payload;

    const tables = readTables(file);
    const video = tables.find((table) => table.kind === 'vide');
    const audio = tables.find((table) => table.kind === 'soun');
    const exact = mp4ContainerBytes({
      payloadBytes: payload,
      video: video ? { ...video, entry: VIDEO[codec].inMp4!, hasColour: true } : null,
      audio: audio ?? null,
    });
    expect(exact).toBe(truth);

    const [sound] = soundsOf(plan);
    const picture = pictureOf(plan);
    const foreseen = foreseeMp4ContainerBytes({
      video: { codec: VIDEO[codec], frames: facts.frameCount, rate: facts.frameRate },
      audio: sound
        ? { packets: countPackets(SOUND.aac, sound.out.samples), packetsPerSecond: sound.out.sampleRate / 1024 }
        : null,
      keyframeInterval: picture?.do.kind === 'encode' ? picture.do.keyframeInterval : 1,
      payloadBytes: payload,
    });
    expect(Math.abs(foreseen - truth) / truth).toBeLessThan(0.12);
    expect(Math.abs(foreseen - truth) / (payload + truth)).toBeLessThan(0.005);
  });
});
