import { readFileSync, truncateSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { PictureFacts, PicturePath } from '../core/plan/encodePlan.ts';
import type { ProgrammeFacts } from '../core/programme/facts.ts';
import { SOUND, type SoundCodec } from '../core/sound/codecs.ts';
import { RATED, type RatedCodec } from '../core/video/codecs.ts';
import { STATISTICS, type PictureRun } from '../engine/encoders/encoder.ts';
import type { Engine, Inspection } from '../engine/engine.ts';
import { EngineError } from '../engine/engineError.ts';
import { createPacketTally, type ListedPacket } from '../engine/parsing/packets.ts';

/** What stands in a file of the fake engine, before it is filled up to its size. */
interface FakeFile {
  readonly facts?: ProgrammeFacts;
  readonly picture?: { readonly codec: RatedCodec; readonly out: PictureFacts; readonly groups: readonly FakeGroup[] };
  readonly sound?: {
    readonly codec: SoundCodec;
    readonly sampleRate: number;
    readonly channels: number;
    readonly packets: number;
    readonly bytes: number;
  };
}

interface FakeGroup {
  readonly frames: number;
  readonly bytes: number;
}

/** Bytes of a fake file that are neither picture nor sound. */
const OVERHEAD = 3000;

/** A file joined of groups takes so much more. */
const JOINED_MORE = 100_000;

/** Every second group is this much harder than the one before. */
const HARD = 3;

/** A frame of usual quality of an easy group takes so many bytes for each pixel. */
const BYTES_PER_PIXEL = 0.02;

/** Grey, so that colours agree. */
const GREY = Buffer.alloc(64 * 36 * 3, 128);

/** Means of a grey picture. */
const MIDDLE = { y: 126, cb: 128, cr: 128 };
const COMPARED = {
  ...{ ssimLuma: 0.95, ssimAll: 0.96, mseLuma: 8, mseAll: 6 },
  mseWeighted: 7,
  means: { master: MIDDLE, result: MIDDLE },
  banding: { areas: 100, smooth: 10, banded: 0 },
};

/** The same of every frame. */
function framesOf<Frame>({ out }: PicturePath, frame: Frame): Frame[] {
  return Array.from({ length: out.frameCount }, () => frame);
}

/**
 * An engine that encodes nothing: its files say what would be in them and are as large as that. Sizes follow quality and
 * rate as the definitions of the codecs say, so that sizes are filled as with a real one, in no time.
 */
export function createFakeEngine(): Engine {
  return {
    report: () => Promise.reject(new EngineError('engine-missing', 'The fake engine has no programs.')),
    probe: (file) => {
      const { facts } = read(file);
      if (!facts) return Promise.reject(new EngineError('file-not-media', 'This file holds no programme.'));
      return Promise.resolve({ facts, frameTimes: null, spent: [], raw: {} });
    },
    inspect: (file) => Promise.resolve(inspect(read(file))),
    encodeSounds: ({ sounds: [sound], output }) => {
      if (!sound) return Promise.reject(new EngineError('engine-failed', 'There is no sound to encode.'));
      const { packetSamples } = SOUND[sound.do.codec];
      const { sampleRate, samples, channels } = sound.out;
      const rate = sound.do.rate ?? sampleRate * 16 * (channels === 'mono' ? 1 : 2);
      const bytes = Math.round((rate * samples) / sampleRate / 8);
      const packets = Math.ceil(samples / packetSamples);
      const count = channels === 'mono' ? 1 : 2;
      write(output, { sound: { codec: sound.do.codec, sampleRate, channels: count, packets, bytes } });
      return Promise.resolve();
    },
    encodePicture: (picture, run, { sound, output }, { workingFolder }) => {
      if (run.pass === 'first') writeFileSync(path.join(workingFolder, `${STATISTICS}-0.log`), 'statistics');
      if (output === null) return Promise.resolve();
      const { codec, keyframeInterval } = picture.do;
      const groups = encodeGroups(picture.from.inFrame, picture.out, codec, keyframeInterval, run);
      const heard = sound ? read(sound.file).sound : undefined;
      write(output, { picture: { codec, out: picture.out, groups }, ...(heard ? { sound: heard } : {}) });
      return Promise.resolve();
    },
    encodeWays: () => Promise.reject(new EngineError('engine-failed', 'The fake engine tries nothing.')),
    encodeMaster: () => Promise.reject(new EngineError('engine-failed', 'The fake engine makes no masters.')),
    copySounds: () => Promise.reject(new EngineError('engine-failed', 'The fake engine copies nothing.')),
    timePackets: () => Promise.resolve([]),
    copyStreams: () => Promise.reject(new EngineError('engine-failed', 'The fake engine copies nothing.')),
    listGroups: (file) => {
      const { picture } = read(file);
      let frames = 0;
      const groups = (picture?.groups ?? []).map((group) => {
        const startSeconds = frames / 25;
        frames += group.frames;
        return { startSeconds, leaveSeconds: frames / 25, ...group };
      });
      return Promise.resolve({ settings: picture?.codec ?? '', groups });
    },
    joinGroups: ({ sources, sound, output }) => {
      const files = sources.map(({ file }) => read(file).picture!);
      const groups = sources.map(({ holds }, index) => files[index]!.groups[holds === 'this-group' ? 0 : index]!);
      const [first] = files as [NonNullable<FakeFile['picture']>];
      const whole = files.find(({ groups: own }) => own.length === groups.length) ?? first;
      const heard = sound ? read(sound.file).sound : undefined;
      const content = { picture: { ...whole, groups }, ...(heard ? { sound: heard } : {}) };
      write(output, content, sizeOf(content) + JOINED_MORE);
      return Promise.resolve();
    },
    probeHardware: () => Promise.resolve([]),
    measureLoudness: () => Promise.resolve({ lufs: -23, truePeakDbtp: -3 }),
    weighGroups: () => Promise.reject(new EngineError('engine-failed', 'The fake engine weighs nothing.')),
    gauge: () => Promise.reject(new EngineError('engine-failed', 'The fake engine sounds nothing.')),
    analyse: () => Promise.reject(new EngineError('engine-failed', 'The fake engine analyses nothing.')),
    compare: (_, results) => Promise.resolve(results.map(({ picture }) => framesOf(picture, COMPARED))),
    standIn: () => Promise.resolve(GREY),
    still: () => Promise.resolve(GREY),
    captions: () => Promise.resolve('WEBVTT\n'),
    rawFrames: (requests) => Promise.resolve(requests.map(() => GREY)),
  };
}

/** A master of the fake engine: a file as large as its facts say. */
export function writeFakeMaster(file: string, facts: ProgrammeFacts): void {
  write(file, { facts }, facts.bytes);
}

/** Groups are alike whatever they are asked for, and easy and hard in turn by where they lie in the master. */
function encodeGroups(
  inFrame: number,
  { frameCount, size, frameRate }: PictureFacts,
  codec: RatedCodec,
  interval: number,
  { target }: PictureRun,
): FakeGroup[] {
  const { usual, slope } = RATED[codec].quality;
  const spans = Array.from({ length: Math.ceil(frameCount / interval) }, (_, index) => ({
    frames: Math.min(interval, frameCount - index * interval),
    weight: Math.floor(inFrame / interval + index) % 2 === 0 ? 1 : HARD,
  }));
  const weigh = spans.map(({ frames, weight }) => frames * weight);
  const sum = weigh.reduce((total, one) => total + one, 0);
  const seconds = (frameCount * frameRate.den) / frameRate.num;
  const perWeight =
    target.kind !== 'quality'
      ? (target.rate * seconds) / 8 / sum
      : size.width * size.height * BYTES_PER_PIXEL * Math.exp(slope * (target.value - usual));
  return spans.map(({ frames }, index) => ({ frames, bytes: Math.max(20, Math.round(weigh[index]! * perWeight)) }));
}

/** As the engine would list its streams and packets. */
function inspect({ picture, sound }: FakeFile): Inspection {
  const tally = createPacketTally();
  const list = (packet: ListedPacket) => tally.add(packet);
  const streams: object[] = [];
  if (picture) {
    const { out, codec, groups } = picture;
    const { num, den } = out.frameRate;
    let frame = 0;
    for (const group of groups) {
      for (let one = 0; one < group.frames; one += 1) {
        const pts = ((frame + one) * den) / num;
        const size = Math.round(group.bytes / group.frames);
        const flags = one === 0 ? 'K_' : '__';
        list({
          codec_type: 'video',
          stream_index: 0,
          pts_time: String(pts),
          duration_time: String(den / num),
          size: String(size),
          flags,
        });
      }
      frame += group.frames;
    }
    streams.push({
      index: 0,
      codec_type: 'video',
      codec_name: codec,
      width: out.size.width,
      height: out.size.height,
      pix_fmt: 'yuv420p',
      avg_frame_rate: `${num}/${den}`,
      r_frame_rate: `${num}/${den}`,
      color_space: out.colour.matrix,
      color_primaries: out.colour.primaries,
      color_transfer: out.colour.transfer,
      color_range: 'tv',
    });
  }
  if (sound) {
    const index = streams.length;
    const length = SOUND[sound.codec].packetSamples / sound.sampleRate;
    for (let packet = 0; packet < sound.packets; packet += 1) {
      const size = String(Math.round(sound.bytes / sound.packets));
      list({
        codec_type: 'audio',
        stream_index: index,
        pts_time: String(packet * length),
        duration_time: String(length),
        size,
        flags: 'K_',
      });
    }
    const { codec, channels, sampleRate } = sound;
    streams.push({ index, codec_type: 'audio', codec_name: codec, channels, sample_rate: String(sampleRate) });
  }
  return {
    report: { streams, format: { format_name: 'mov', start_time: '0' } } as Inspection['report'],
    tallies: tally.tallies(),
  };
}

function write(file: string, content: FakeFile, bytes = sizeOf(content)): void {
  writeFileSync(file, `${JSON.stringify(content)}\n`);
  truncateSync(file, Math.max(bytes, JSON.stringify(content).length + 1));
}

function sizeOf({ picture, sound }: FakeFile): number {
  const pictureBytes = (picture?.groups ?? []).reduce((sum, { bytes }) => sum + bytes, 0);
  return OVERHEAD + pictureBytes + (sound?.bytes ?? 0);
}

function read(file: string): FakeFile {
  const text = readFileSync(file, 'latin1');
  return JSON.parse(Buffer.from(text.slice(0, text.indexOf('\n')), 'latin1').toString('utf8')) as FakeFile;
}
