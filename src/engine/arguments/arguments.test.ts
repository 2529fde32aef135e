import { describe, expect, it } from 'vitest';
import { AS_IT_IS, type Preparation } from '../../core/geometry/preparation.ts';
import { planPicture } from '../../core/plan/planPicture.ts';
import type { EncodedPicture, EncodedSoundStream } from '../../core/plan/encodePlan.ts';
import type { RatedCodec } from '../../core/video/codecs.ts';
import { AS_ENCODER_LIKES } from '../../core/video/fine.ts';
import { bitsPerSecond } from '../../core/units.ts';
import { clockOf, factsOf } from '../../testing/facts.ts';
import type { PictureRun } from '../encoders/encoder.ts';
import { encodeGraph } from '../filters/picture.ts';
import { pictureArguments, soundArguments } from './encode.ts';
import { gaugeArguments, gaugeFirstPass, inTurns } from './gauge.ts';
import { compareArguments, comparePeak } from './compare.ts';
import { stillArguments } from './still.ts';

const SIZE = { width: 1280, height: 720 };
const WHOLE = { inFrame: 0, frameCount: 1500 };
const RATE = bitsPerSecond(2_000_000);
const COMPARED = '/out/b.mp4';
const FILES = {
  source: '/media/odd name%d.mov',
  sound: { file: '/work/sound.m4a', delaySeconds: 0 },
  container: 'mp4',
  output: '/out/x.partial',
  labels: null,
} as const;

function pictureOf(frames = WHOLE, facts = factsOf(), preparation: Preparation = AS_IT_IS) {
  if (!facts.video) throw new Error('These facts have a picture.');
  return planPicture({
    facts,
    video: facts.video,
    size: SIZE,
    preparation,
    frames,
    clock: clockOf(facts),
    format: '420p8',
    rate: null,
  });
}

function encodedIn(codec: RatedCodec, path = pictureOf()): EncodedPicture {
  const rate = { kind: 'average', rate: RATE, passes: 2, buffer: null } as const;
  const settings = { codec, effort: 'balanced', keyframeInterval: 125, rate, fine: AS_ENCODER_LIKES } as const;
  return { ...path, kind: 'picture', do: { kind: 'encode', ...settings } };
}

function after(args: readonly string[], option: string): string | undefined {
  return args[args.indexOf(option) + 1];
}

const BY_RATE = { kind: 'rate', rate: RATE } as const;
const RUNS: readonly PictureRun[] = [
  { target: { kind: 'quality', value: 23 }, pass: 'only', buffer: null, fill: null },
  { target: BY_RATE, pass: 'only', buffer: null, fill: null },
  { target: BY_RATE, pass: 'first', buffer: null, fill: { level: '3.1' } },
  { target: BY_RATE, pass: 'second', buffer: null, fill: { level: '3.1' } },
];

describe('every input', () => {
  const request = {
    path: '/media/a.mov',
    streamIndex: 0,
    frame: 7,
    opening: { atSeconds: 0.26, skipSeconds: 0, framesBefore: 0 },
    chain: [],
    sampling: { matrix: 'bt709', range: 'limited' },
    size: null,
  } as const;
  const sound: EncodedSoundStream = {
    kind: 'sound',
    from: [{ streamIndex: 1 }],
    do: { kind: 'encode', codec: 'aac', rate: RATE, bitDepth: null },
    chain: [
      { step: 'begin', startSeconds: 0 },
      { step: 'last', samples: 100 },
    ],
    out: { sampleRate: 48000, samples: 100, channels: 'stereo' },
  };
  it.each([
    ['a picture', pictureArguments(encodedIn('h264'), RUNS[0]!, FILES)],
    ['a sound', soundArguments([sound], 'mp4', '/media/a.mov', '/out/a.m4a', null)],
    ['a comparison', compareArguments('/media/a.mov', [{ picture: pictureOf(), file: COMPARED }])],
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

describe('a gauge', () => {
  it.each([
    [1080, [6]],
    [1440, [4, 2]],
    [2160, [2, 2, 2]],
    [4320, [1, 1, 1, 1, 1, 1]],
  ] as const)('of %s lines encodes as many qualities side by side as memory has room for', (height, counts) => {
    const picture = pictureOf();
    const size = { width: (height / 9) * 16, height };
    const request = { codec: 'h264', qualities: [12, 18, 22, 26, 32, 51], keyframeInterval: 125 } as const;
    const turns = inTurns({ ...picture, out: { ...picture.out, size } }, request);
    const asked = turns.map((turn) => ('qualities' in turn ? turn.qualities : []));
    expect(asked.map(({ length }) => length)).toEqual(counts);
    expect(asked.flat()).toEqual(request.qualities);
  });
});

describe('a picture in hardware', () => {
  const run = { ...RUNS[0]!, target: { kind: 'rate', rate: RATE } } as const;

  it('goes through the whole chain, then to the device, which is opened before the input', () => {
    const args = pictureArguments(encodedIn('hevc'), run, FILES, 'vaapi');
    expect(args.indexOf('-vaapi_device')).toBeLessThan(args.indexOf('-i'));
    const own = after(pictureArguments(encodedIn('hevc'), run, FILES), '-vf');
    expect(after(args, '-vf')).toBe(`${own},format=nv12,hwupload`);
    expect([after(args, '-c:v'), after(args, '-b:v')]).toEqual(['hevc_vaapi', String(RATE)]);
    expect(args).not.toContain('-pix_fmt');
    expect(after(args, '-colorspace')).toBe('bt709');
  });

  it('of another kind needs no device by name', () => {
    const args = pictureArguments(encodedIn('h264'), run, FILES, 'nvenc');
    expect(args.join(' ')).toMatch(/format=nv12 .*-c:v h264_nvenc -b:v 2000000 -g /);
    expect(args).not.toContain('-vaapi_device');
  });
});

describe('a gauge of two passes', () => {
  it('is asked of the codec whose constant quality takes two; every quality goes by what the first wrote', () => {
    const request = { codec: 'vp9', qualities: [20, 32], keyframeInterval: 125 } as const;
    const first = gaugeFirstPass(pictureOf(), request, '/media/a.mov') ?? [];
    expect(after(first, '-pass')).toBe('1');
    expect(first.filter((arg) => arg === '-map')).toHaveLength(1);
    const second = gaugeArguments(pictureOf(), request, '/media/a.mov');
    expect(second.filter((_, index) => second[index - 1] === '-pass')).toEqual(['2', '2']);
    expect(after(second, '-passlogfile')).toBe(after(first, '-passlogfile'));
    for (const codec of ['h264', 'hevc', 'av1'] as const) {
      expect(gaugeFirstPass(pictureOf(), { ...request, codec }, '/media/a.mov')).toBeNull();
    }
  });
});

describe('a picture run', () => {
  it.each(['h264', 'hevc'] as const)('of %s states pixel format, colour and timing every time', (codec) => {
    for (const run of RUNS) {
      const args = pictureArguments(encodedIn(codec), run, FILES);
      expect(after(args, '-pix_fmt')).toBe('yuv420p');
      expect(
        ['-color_range', '-color_primaries', '-color_trc', '-colorspace'].map((option) => after(args, option)),
      ).toEqual(['tv', 'bt709', 'bt709', 'bt709']);
      expect(after(args, '-fps_mode')).toBe('passthrough');
      expect(after(args, '-enc_time_base')).toBe('1:25');
      expect(after(args, '-g')).toBe('125');
    }
  });

  it('gives a group encoded again the headers of the passes it stands beside', () => {
    const again: PictureRun = {
      target: { kind: 'quality', value: 31.5 },
      pass: 'only',
      buffer: null,
      fill: { level: '3.1' },
    };
    const h264 = pictureArguments(encodedIn('h264'), again, FILES);
    expect([after(h264, '-crf'), after(h264, '-level:v'), after(h264, '-x264-params')]).toEqual([
      '31.5',
      '3.1',
      'stitchable=1',
    ]);
    const hevc = pictureArguments(encodedIn('hevc'), again, FILES);
    expect(after(hevc, '-x265-params')).toMatch(/open-gop=0:level-idc=3.1:high-tier=0/);
  });

  it('states the level of a size target, which encoders would choose by the rate', () => {
    expect(after(pictureArguments(encodedIn('h264'), RUNS[3]!, FILES), '-level:v')).toBe('3.1');
    expect(after(pictureArguments(encodedIn('hevc'), RUNS[3]!, FILES), '-x265-params')).toContain(
      'level-idc=3.1:high-tier=0',
    );
  });

  it('reads statistics of the pass before', () => {
    expect(after(pictureArguments(encodedIn('h264'), RUNS[2]!, FILES), '-pass')).toBe('1');
    expect(after(pictureArguments(encodedIn('h264'), RUNS[3]!, FILES), '-pass')).toBe('2');
    expect(after(pictureArguments(encodedIn('hevc'), RUNS[2]!, FILES), '-x265-params')).toMatch(
      /pass=1:stats=passes\.log/,
    );
  });

  it('writes no file while it only looks ahead', () => {
    const args = pictureArguments(encodedIn('h264'), RUNS[2]!, { ...FILES, sound: null, output: null });
    expect(args.slice(-3)).toEqual(['-f', 'null', '-']);
    expect(args).toContain('-an');
  });

  it('opens a portion half a frame early and reads little beyond it', () => {
    const args = pictureArguments(encodedIn('h264', pictureOf({ inFrame: 100, frameCount: 50 })), RUNS[0]!, FILES);
    expect(after(args, '-ss')).toBe('3.980000000');
    expect(Number(after(args, '-t'))).toBe(3);
    expect(after(args, '-vf')).toMatch(/^trim=start_frame=0:end_frame=50,/);
  });

  it('counts frames from the start where a time does not lead to them', () => {
    const args = pictureArguments(
      encodedIn('h264', pictureOf({ inFrame: 100, frameCount: 50 }, factsOf({}, { seeksExactly: false }))),
      RUNS[0]!,
      FILES,
    );
    expect(args).not.toContain('-ss');
    expect(after(args, '-vf')).toMatch(/^trim=start_frame=100:end_frame=150,/);
  });
});

describe('the picture’s filter', () => {
  it('leaves no matrix or range to be guessed', () => {
    const filter = encodeGraph(pictureOf());
    expect(filter).toContain(':in_range=tv:out_range=tv,');
    expect(filter).toContain('setparams=range=tv:color_primaries=bt709:color_trc=bt709:colorspace=bt709');
    expect(filter).toContain('setsar=1');
    expect(filter).toMatch(/settb=1\/25,setpts=N$/);
  });

  it('brings full range to limited', () => {
    const facts = factsOf({}, { colour: { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709', range: 'full' } });
    expect(encodeGraph(pictureOf(WHOLE, facts))).toContain(
      'in_color_matrix=bt709:in_range=pc:out_color_matrix=bt709:out_range=tv',
    );
  });

  it('keeps the stamps of a variable rate', () => {
    expect(encodeGraph(pictureOf(WHOLE, factsOf({}, { constantRate: false })))).toMatch(/max\(PTS-STARTPTS/);
  });

  it('makes frames of fields before it cuts edges off, for the encoder, the comparison and a look alike', () => {
    const crop = { top: 20, bottom: 22, left: 2, right: 4 };
    const prepared = pictureOf(WHOLE, factsOf(), { ...AS_IT_IS, deinterlace: 'bottom-first', crop });
    const expected = 'bwdif=mode=send_frame:parity=bff:deint=all,crop=w=iw-6:h=ih-42:x=2:y=20:exact=1,';
    expect(encodeGraph(prepared)).toContain(`${expected}scale=`);
    expect(compareArguments('/media/a.mov', [{ picture: prepared, file: COMPARED }]).join(' ')).toContain(expected);
  });

  it('compares deep masters with more than 8 bits', () => {
    expect(comparePeak(pictureOf())).toBe(255);
    expect(comparePeak(pictureOf(WHOLE, factsOf({}, { bitDepth: 10 })))).toBe(1023);
  });
});
