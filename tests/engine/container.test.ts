import { statSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import type { Container } from '../../src/core/container/names.ts';
import {
  foreseeMp4Bytes,
  M4A_DIALECT,
  MOV_DIALECT,
  MP4_DIALECT,
  mp4ContainerBytes,
  type Mp4Dialect,
} from '../../src/core/container/mp4Tables.ts';
import { pictureOf, soundsOf } from '../../src/core/plan/encodePlan.ts';
import { SOUND, SOUND_CODECS, type SoundCodec } from '../../src/core/sound/codecs.ts';
import { countPackets } from '../../src/core/sound/definition.ts';
import { RATED, VIDEO_CODECS, type RatedCodec } from '../../src/core/video/codecs.ts';
import { planRendition } from '../../src/core/plan/planRendition.ts';
import { atQuality, plainVideo, STARTING_RECIPE, type EncodedSound } from '../../src/core/recipe/recipe.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { openJournal } from '../../src/server/runner/journal.ts';
import { encodeRendition } from '../../src/server/runner/encodeRendition.ts';
import { lookAtFile } from '../support/analyse.ts';
import { drawMaster, makeFolder } from '../support/footage.ts';
import { UNTREATED } from '../../src/core/sound/treatment.ts';
import { readByMp4box } from '../support/otherReaders.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });

interface SampleTable {
  readonly boxes: readonly {
    readonly type: string;
    readonly size: number;
    readonly entries?: readonly { readonly boxes?: readonly { readonly type: string; readonly size: number }[] }[];
  }[];
}

/** Boxes of parameter sets, by their codecs. */
const PARAMETER_SETS = ['avcC', 'hvcC', 'vpcC', 'av1C'];

/** Reads the tables with a library of its own (mp4box), so that the arithmetic is not checked against itself. */
function readTables(file: string) {
  const tracks = (
    readByMp4box(file) as unknown as {
      moov: { traks: { mdia: { hdlr: { handler: string }; minf: { stbl: SampleTable } } }[] };
    }
  ).moov.traks;
  return tracks.map((track) => {
    const table = track.mdia.minf.stbl;
    const size = (type: string) => table.boxes.find((box) => box.type === type)?.size ?? 0;
    const entry = table.boxes.find((box) => box.type === 'stsd')?.entries?.[0];
    const parameterSets = entry?.boxes?.find((box) => PARAMETER_SETS.includes(box.type))?.size ?? 0;
    const runs = (type: string, width: number) => (size(type) === 0 ? 0 : (size(type) - 16) / width);
    return {
      kind: track.mdia.hdlr.handler,
      samples: (size('stsz') - 20) / 4,
      sizesVary: size('stsz') > 20,
      keyframes: runs('stss', 4),
      durationRuns: runs('stts', 8),
      offsetRuns: runs('ctts', 8),
      chunks: runs('stco', 4),
      chunkRuns: runs('stsc', 12),
      parameterSetBytes: parameterSets,
    };
  });
}

const DIALECT: Readonly<Partial<Record<Container, Mp4Dialect>>> = {
  mp4: MP4_DIALECT,
  mov: MOV_DIALECT,
  m4a: M4A_DIALECT,
};

/** A picture or none, a sound or none, in a container of the family, at a rate for so many seconds. */
const CASES: readonly (readonly [Container, RatedCodec | null, SoundCodec | null, rate: string, seconds: number])[] = [
  ['mp4', 'h264', 'aac', '25', 8],
  ['mp4', 'h264', 'aac', '60000/1001', 5],
  ['mp4', 'h264', null, '24', 6],
  ['mp4', 'hevc', 'mp3', '25', 6],
  ['mp4', 'hevc', null, '30000/1001', 4],
  ['mp4', 'vp9', 'opus', '25', 2],
  ['mp4', 'av1', 'opus', '25', 3],
  ['mov', 'h264', 'aac', '25', 4],
  ['mov', 'h264', 'pcm', '25', 4],
  ['mov', 'hevc', 'mp3', '25', 3],
  ['mov', null, 'pcm', '25', 2],
  ['m4a', null, 'aac', '25', 3],
];

function soundOf(codec: SoundCodec): EncodedSound {
  const { rate } = SOUND[codec];
  const kbps = rate.kind === 'asked' ? rate.usualKbps.stereo : null;
  return {
    codec,
    kbps,
    bitDepth: kbps === null ? 24 : null,
    channels: 'stereo',
    sampleRate: 48000,
    tracks: [0],
    loudness: null,
    mixed: false,
    joined: false,
    ...UNTREATED,
  };
}

describe('the container’s own bytes', () => {
  it.each(CASES)('%s of %s and %s at %s for %i s', async (container, codec, soundCodec, rate, length) => {
    const folder = makeFolder();
    const master = drawMaster(path.join(folder, 'master.mov'), { seconds: length, rate });
    const { facts, clock } = await lookAtFile(master);
    const sounded = soundCodec && soundOf(soundCodec);
    const quality = codec && atQuality(RATED[codec].quality.usual);
    const outcome = planRendition({
      facts,
      clock,
      recipe: {
        ...STARTING_RECIPE,
        container,
        video: codec && quality && plainVideo(codec, quality, 'fast'),
        audio: sounded,
      },
      portion: null,
      encoders: [...VIDEO_CODECS, ...SOUND_CODECS],
      sounding: null,
    });
    if (!outcome.ok) throw new Error('The plan was refused.');
    const { plan } = outcome;
    const { file } = await encodeRendition({
      engine,
      plan,
      source: master,
      labels: null,
      facts,
      clock,
      workingFolder: folder,
      temporary: (part) => path.join(folder, `part-${part}`),
      journal: await openJournal(path.join(folder, 'journal.json'), ''),
      signal: new AbortController().signal,
      hold: null,
      enter: () => () => undefined,
    });
    const { tallies } = await engine.inspect(file);
    const payload = [...tallies.values()].reduce((sum, tally) => sum + tally.bytes, 0);
    const truth = statSync(file).size - payload;

    const dialect = DIALECT[container]!;
    const tables = readTables(file);
    const video = tables.find((table) => table.kind === 'vide');
    const audio = tables.find((table) => table.kind === 'soun');
    const exact = mp4ContainerBytes(dialect, {
      payloadBytes: payload,
      // Where all samples are sync samples or of one size, a table is left out.
      video: video && codec ? { ...video, entry: RATED[codec].inMp4!, hasColour: true } : null,
      sounds: audio && sounded ? [{ ...audio, entry: SOUND[sounded.codec].inMp4!, bitDepth: sounded.bitDepth }] : [],
    });
    expect(exact).toBe(truth);

    const [sound] = soundsOf(plan);
    const picture = pictureOf(plan);
    const definition = sounded && SOUND[sounded.codec];
    const foreseen = foreseeMp4Bytes(dialect, {
      video: codec && { codec: RATED[codec], frames: facts.frameCount, rate: facts.frameRate, hasSecondPicture: false },
      sounds:
        sound && definition
          ? [
              {
                codec: definition,
                packets: countPackets(definition, sound.out.samples),
                packetsPerSecond: sound.out.sampleRate / definition.packetSamples,
                bitDepth: sounded.bitDepth,
              },
            ]
          : [],
      keyframeInterval: picture?.do.kind === 'encode' ? picture.do.keyframeInterval : 1,
      payloadBytes: payload,
    });
    expect(foreseen - truth).toBeGreaterThan(-0.12 * truth);
    expect(Math.abs(foreseen - truth) / (payload + truth)).toBeLessThan(0.005);
  });
});
