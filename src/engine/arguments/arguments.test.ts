import { describe, expect, it } from 'vitest';
import { AS_IT_IS, type Preparation } from '../../core/geometry/preparation.ts';
import { planPicture } from '../../core/rate/planPicture.ts';
import type { VideoEncodePlan } from '../../core/rate/encodePlan.ts';
import { bitsPerSecond } from '../../core/units.ts';
import { clockOf, factsOf } from '../../testing/facts.ts';
import { pictureArguments, soundArguments, type PictureRun } from './encode.ts';
import { gaugeArguments } from './gauge.ts';
import { comparePeak, measureArguments } from './measure.ts';
import { encodeFilter } from './picture.ts';
import { stillArguments } from './still.ts';

const SIZE = { width: 1280, height: 720 };
const WHOLE = { inFrame: 0, frameCount: 1500 };
const RATE = bitsPerSecond(2_000_000);
const FILES = { source: '/media/odd name%d.mov', sound: '/work/sound.m4a', output: '/out/x.partial' };

function pictureOf(frames = WHOLE, facts = factsOf(), preparation: Preparation = AS_IT_IS) {
  if (!facts.video) throw new Error('These facts have a picture.');
  return planPicture(facts, facts.video, SIZE, preparation, frames, clockOf(facts));
}

function videoOf(codec: 'h264' | 'hevc'): VideoEncodePlan {
  return { codec, effort: 'balanced', keyframeInterval: 125, rate: { kind: 'average', rate: RATE, passes: 2 } };
}

function after(args: readonly string[], option: string): string | undefined {
  return args[args.indexOf(option) + 1];
}

const RUNS: readonly PictureRun[] = [
  { kind: 'quality', value: 23, fill: null },
  { kind: 'average', rate: RATE },
  { kind: 'analysis', rate: RATE, fill: { level: '3.1' } },
  { kind: 'second', rate: RATE, fill: { level: '3.1' } },
];

describe('every input', () => {
  const request = {
    path: '/media/a.mov',
    streamIndex: 0,
    frame: 7,
    opening: { atSeconds: 0.26, skipSeconds: 0, framesBefore: 0 },
    preparation: AS_IT_IS,
    matrix: 'bt709',
    range: 'limited',
    size: null,
  } as const;
  const sound = {
    streamIndex: 1,
    codec: 'aac',
    rate: RATE,
    channels: 'stereo',
    sampleRate: 48000,
    startSeconds: 0,
    samples: 100,
  } as const;
  it.each([
    ['a picture', pictureArguments(pictureOf(), videoOf('h264'), RUNS[0]!, FILES)],
    ['a sound', soundArguments(sound, '/media/a.mov', '/out/a.m4a')],
    ['a measurement', measureArguments(pictureOf(), '/media/a.mov', '/out/b.mp4')],
    ['a still', stillArguments(request)],
    [
      'a gauge',
      gaugeArguments(pictureOf(), { codec: 'h264', qualities: [12, 23], keyframeInterval: 125 }, '/media/a.mov'),
    ],
  ])('of %s is one local file of a known kind', (_name, args) => {
    const inputs = args.flatMap((arg, index) => (arg === '-i' ? [index] : []));
    expect(inputs.length).toBeGreaterThan(0);
    for (const index of inputs) {
      expect(args[index + 1]).toMatch(/^file:\//);
      expect(args.slice(index - 4, index)).toEqual([
        '-protocol_whitelist',
        'file,pipe',
        '-format_whitelist',
        expect.not.stringMatching(/hls|concat|dash/),
      ]);
    }
    expect(args).toContain('-nostdin');
  });
});

describe('a picture run', () => {
  it.each(['h264', 'hevc'] as const)('of %s states pixel format, colour and timing every time', (codec) => {
    for (const run of RUNS) {
      const args = pictureArguments(pictureOf(), videoOf(codec), run, FILES);
      expect(after(args, '-pix_fmt')).toBe('yuv420p');
      expect(
        ['-color_range', '-color_primaries', '-color_trc', '-colorspace'].map((option) => after(args, option)),
      ).toEqual(['tv', 'bt709', 'bt709', 'bt709']);
      expect(after(args, '-fps_mode')).toBe('passthrough');
      expect(after(args, '-enc_time_base')).toBe('1:25');
      expect(after(args, '-g')).toBe('125');
    }
  });

  it('limits the quality of a size target only', () => {
    const limited = pictureArguments(pictureOf(), videoOf('h264'), RUNS[3]!, FILES);
    expect(after(limited, '-qmin')).toBe('12');
    const free = pictureArguments(pictureOf(), videoOf('h264'), { kind: 'second', rate: RATE, fill: null }, FILES);
    expect(free).not.toContain('-qmin');
    expect(after(pictureArguments(pictureOf(), videoOf('hevc'), RUNS[3]!, FILES), '-x265-params')).toContain(
      'qpmin=12',
    );
  });

  it('gives a group encoded again the headers of the passes it stands beside', () => {
    const again = { kind: 'quality', value: 31.5, fill: { level: '3.1' } } as const;
    const h264 = pictureArguments(pictureOf(), videoOf('h264'), again, FILES);
    expect([after(h264, '-crf'), after(h264, '-level:v'), after(h264, '-x264-params')]).toEqual([
      '31.5',
      '3.1',
      'stitchable=1',
    ]);
    const hevc = pictureArguments(pictureOf(), videoOf('hevc'), again, FILES);
    expect(after(hevc, '-x265-params')).toMatch(/open-gop=0:level-idc=3.1:high-tier=0/);
  });

  it('states the level of a size target, which encoders would choose by the rate', () => {
    expect(after(pictureArguments(pictureOf(), videoOf('h264'), RUNS[3]!, FILES), '-level:v')).toBe('3.1');
    expect(after(pictureArguments(pictureOf(), videoOf('hevc'), RUNS[3]!, FILES), '-x265-params')).toContain(
      'level-idc=3.1:high-tier=0',
    );
  });

  it('reads statistics of the pass before', () => {
    expect(after(pictureArguments(pictureOf(), videoOf('h264'), RUNS[2]!, FILES), '-pass')).toBe('1');
    expect(after(pictureArguments(pictureOf(), videoOf('h264'), RUNS[3]!, FILES), '-pass')).toBe('2');
    expect(after(pictureArguments(pictureOf(), videoOf('hevc'), RUNS[2]!, FILES), '-x265-params')).toMatch(
      /pass=1:stats=passes\.log/,
    );
  });

  it('writes no file while it only looks ahead', () => {
    const args = pictureArguments(pictureOf(), videoOf('h264'), RUNS[2]!, { ...FILES, sound: null, output: null });
    expect(args.slice(-3)).toEqual(['-f', 'null', '-']);
    expect(args).toContain('-an');
  });

  it('opens a portion half a frame early and reads little beyond it', () => {
    const args = pictureArguments(pictureOf({ inFrame: 100, frameCount: 50 }), videoOf('h264'), RUNS[0]!, FILES);
    expect(after(args, '-ss')).toBe('3.980000000');
    expect(Number(after(args, '-t'))).toBe(3);
    expect(after(args, '-vf')).toMatch(/^trim=start_frame=0:end_frame=50,/);
  });

  it('counts frames from the start where a time does not lead to them', () => {
    const args = pictureArguments(
      pictureOf({ inFrame: 100, frameCount: 50 }, factsOf({}, { seeksExactly: false })),
      videoOf('h264'),
      RUNS[0]!,
      FILES,
    );
    expect(args).not.toContain('-ss');
    expect(after(args, '-vf')).toMatch(/^trim=start_frame=100:end_frame=150,/);
  });
});

describe('the picture’s filter', () => {
  it('leaves no matrix or range to be guessed', () => {
    const filter = encodeFilter(pictureOf());
    expect(filter).toContain('in_color_matrix=bt709:in_range=tv:out_color_matrix=bt709:out_range=tv');
    expect(filter).toContain('setparams=range=tv:color_primaries=bt709:color_trc=bt709:colorspace=bt709');
    expect(filter).toContain('setsar=1');
    expect(filter).toMatch(/settb=1\/25,setpts=N$/);
  });

  it('brings full range to limited', () => {
    const facts = factsOf({}, { colour: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', range: 'full' } });
    expect(encodeFilter(pictureOf(WHOLE, facts))).toContain('in_range=pc');
  });

  it('keeps the stamps of a variable rate', () => {
    expect(encodeFilter(pictureOf(WHOLE, factsOf({}, { constantRate: false })))).toMatch(/max\(PTS-STARTPTS/);
  });

  it('makes frames of fields before it cuts edges off, for the encoder, the measurement and a look alike', () => {
    const crop = { top: 20, bottom: 22, left: 2, right: 4 };
    const prepared = pictureOf(WHOLE, factsOf(), { deinterlace: 'bottom-first', crop });
    const expected = 'bwdif=mode=send_frame:parity=bff:deint=all,crop=w=iw-6:h=ih-42:x=2:y=20:exact=1,';
    expect(encodeFilter(prepared)).toContain(`${expected}scale=`);
    expect(measureArguments(prepared, '/media/a.mov', '/out/b.mp4').join(' ')).toContain(expected);
  });

  it('compares deep masters with more than 8 bits', () => {
    expect(comparePeak(pictureOf())).toBe(255);
    expect(comparePeak(pictureOf(WHOLE, factsOf({}, { bitDepth: 10 })))).toBe(1023);
  });
});
