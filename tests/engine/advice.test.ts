import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { adviseOnProgramme } from '../../src/core/advice/adviseOnProgramme.ts';
import type { Advisory } from '../../src/core/advice/advisory.ts';
import { analyseFile } from '../support/analyse.ts';
import { draw, makeFolder, spoilMiddle } from '../support/footage.ts';

/**
 * Every advisory on footage drawn here that has its fault, and on footage without it. The sound one differs from each
 * faulty one in nothing but the fault, so what is told is told because of it.
 */
interface Footage {
  readonly picture?: string;
  readonly sound?: string | null;
  readonly rate?: string;
  readonly encoding?: readonly string[];
  readonly colour?: readonly string[];
  readonly audio?: readonly string[];
  readonly extra?: readonly string[];
}

const folder = makeFolder();

const colour = (matrix: string, primaries = matrix, transfer = matrix, range = 'tv') => [
  ...['-colorspace', matrix, '-color_primaries', primaries, '-color_trc', transfer, '-color_range', range],
];
const SD_COLOUR = colour('smpte170m');
const HD_COLOUR = colour('bt709');

/** A picture that moves everywhere, with grain, so that fields can be told and no half second stands still. */
const moving = (seconds: number, size = '192x108', rate = 25) =>
  `testsrc2=s=${size}:r=${rate}:d=${seconds},scroll=horizontal=0.01:vertical=0.004,noise=c0s=12:c0f=t`;

/** Two voices, each louder on its own side, about as loud as the web has it. */
const LEFT = '0.17*sin(2*PI*320*t)+0.05*sin(2*PI*510*t)';
const RIGHT = '0.05*sin(2*PI*320*t)+0.17*sin(2*PI*510*t)';
const stereo = (left: string, right: string, seconds = 3) => `aevalsrc='${left}|${right}':s=48000:d=${seconds}`;
const STEREO = stereo(LEFT, RIGHT);

const h264 = (quality: number, pixels = 'yuv420p') => [
  ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', String(quality), '-pix_fmt', pixels],
];
/** Bits enough that encoding again is not seen, and few enough for a web file. */
const RICH = h264(10);
const SMALL = h264(34);
/** A codec whose files are never taken for ready web files, however small. */
const MPEG2 = ['-c:v', 'mpeg2video', '-qscale:v', '2', '-pix_fmt', 'yuv420p'];
const THIN_HEVC = ['-c:v', 'libx265', '-preset', 'ultrafast', '-crf', '40', '-x265-params', 'log-level=none'];

let drawn = 0;
function drawFootage({ picture, sound = STEREO, rate = '25', encoding, colour, audio, extra }: Footage): string {
  drawn += 1;
  return draw(path.join(folder, `${drawn}.mov`), [
    ...['-f', 'lavfi', '-i', picture ?? moving(3)],
    ...(sound === null ? [] : ['-f', 'lavfi', '-i', sound]),
    ...['-r', rate, ...(encoding ?? RICH), ...(colour ?? SD_COLOUR), ...(audio ?? ['-c:a', 'pcm_s16le'])],
    ...(extra ?? []),
  ]);
}

async function adviceOn(file: string): Promise<Advisory[]> {
  return adviseOnProgramme(await analyseFile(file));
}

async function codesOf(footage: Footage): Promise<string[]> {
  return (await adviceOn(drawFootage(footage))).map(({ code }) => code);
}

const WITH_FIELDS = `${moving(3, '192x144', 50)},tinterlace=mode=interleave_top`;
const TAGGED_INTERLACED = ['-flags', '+ilme+ildct', '-x264-params', 'tff=1'];

const black = (seconds: number) => `color=black:s=192x108:r=25:d=${seconds},format=yuv420p`;

describe('sound footage', () => {
  it('has nothing told about it', async () => {
    expect(await codesOf({})).toEqual([]);
  });
});

describe('footage with one fault has that told, and nothing else', () => {
  it.concurrent.each<readonly [code: string, name: string, footage: Footage]>([
    ['interlaced', 'fields, tagged', { picture: `${WITH_FIELDS},setfield=tff`, extra: TAGGED_INTERLACED }],
    ['scan-tag-wrong', 'whole frames, tagged as fields', { extra: TAGGED_INTERLACED }],
    ['bars', 'letterbox', { picture: `${moving(6)},pad=192:144:0:18`, sound: stereo(LEFT, RIGHT, 6) }],
    [
      'variable-rate',
      'frames left out',
      { picture: `${moving(3)},select='not(eq(mod(n,7),3))'`, extra: ['-fps_mode', 'passthrough'] },
    ],
    ['rounded-rate', '2997/100', { picture: moving(3, '192x108', 29.97), rate: '2997/100' }],
    ['pixels-not-square', '64:45', { picture: `${moving(3)},setsar=64/45` }],
    ['odd-frame-size', '193 wide', { picture: `${moving(3)},scale=193:108,setsar=1`, encoding: h264(10, 'yuv444p') }],
    ['thin-source', 'HEVC at few bits', { encoding: THIN_HEVC }],
    ['high-dynamic-range', 'PQ', { colour: colour('bt2020nc', 'bt2020', 'smpte2084') }],
    ['high-dynamic-range', 'HLG', { colour: colour('bt2020nc', 'bt2020', 'arib-std-b67') }],
    [
      'colour-tag-unusual',
      'SD tagged as HD',
      { picture: moving(1, '640x480'), sound: stereo(LEFT, RIGHT, 1), colour: HD_COLOUR },
    ],
    ['colour-tag-unusual', 'HD tagged as SD', { picture: moving(1, '1280x720'), sound: stereo(LEFT, RIGHT, 1) }],
    ['colour-not-tagged', 'no tags', { colour: [] }],
    ['full-range', 'full range', { colour: colour('smpte170m', 'smpte170m', 'smpte170m', 'pc') }],
    ['deep-colour', 'ten bits', { encoding: h264(10, 'yuv420p10le') }],
    ['black-ends', 'a second at the head', { picture: `${black(1)}[a];${moving(2)}[b];[a][b]concat` }],
    ['black-ends', 'half a second at the tail', { picture: `${moving(2.5)}[a];${black(0.5)}[b];[a][b]concat` }],
    [
      'frozen',
      'three seconds',
      {
        picture: `${moving(3)},loop=loop=75:size=1:start=40,trim=duration=6`,
        sound: stereo(LEFT, RIGHT, 4.6),
        encoding: MPEG2,
      },
    ],
    ['already-small', 'a small file', { encoding: SMALL }],
    ['sound-silent', 'a track with nothing on it', { sound: stereo('0', '0') }],
    ['sound-missing', 'a second less of it', { sound: stereo(LEFT, RIGHT, 2) }],
    ['sound-beyond', 'two seconds more of it', { sound: stereo(LEFT, RIGHT, 5) }],
    ['channel-empty', 'nothing on the right', { sound: stereo(LEFT, '0') }],
    ['out-of-phase', 'one side turned round', { sound: stereo(LEFT, `-1*(${LEFT})`) }],
    ['channels-identical', 'one voice twice', { sound: stereo(LEFT, LEFT) }],
    ['loudness-far', 'very quiet', { sound: `${STEREO},volume=-14dB` }],
    ['loudness-far', 'very loud', { sound: `${STEREO},volume=9dB` }],
    // Samples of this tone reach −3.5 dBFS; the wave between them comes to −0.4.
    ['true-peak-high', 'a wave above its samples', { sound: truePeakBurst(0.955) }],
    ['more-sound-tracks', 'two tracks', { extra: ['-map', '0:v', '-map', '1:a', '-map', '1:a'] }],
  ])('%s: %s', async (code, _, footage) => {
    expect(await codesOf(footage)).toEqual([code]);
  });

  it('damaged: bytes lost in the middle', async () => {
    const file = drawFootage({});
    spoilMiddle(file, 40_000);
    const [advisory, ...others] = await adviceOn(file);
    expect(others).toEqual([]);
    expect(advisory?.code).toBe('damaged');
    const times = (advisory?.message.match(/[\d.]+(?= s)/g) ?? []).map(Number);
    expect(times.length).toBeGreaterThan(0);
    for (const seconds of times) expect(Math.abs(seconds - 1.5)).toBeLessThan(1);
  });

  it('rotated-by-tag: lying on its side', async () => {
    const lying = drawFootage({});
    const turned = draw(path.join(folder, 'turned.mov'), [
      ...['-i', lying, '-map', '0', '-c', 'copy', '-metadata:s:v', 'rotate=90'],
    ]);
    expect((await adviceOn(turned)).map(({ code }) => code)).toEqual(['rotated-by-tag']);
  });
});

describe('footage close to a fault has it not', () => {
  it.concurrent.each<readonly [code: string, name: string, footage: Footage]>([
    ['interlaced', 'fifty whole frames a second', { picture: moving(2, '192x144', 50), rate: '50' }],
    [
      'bars',
      'one scene of three is letterboxed',
      {
        picture: `${moving(2)}[a];${moving(2, '192x72')},pad=192:108:0:18[b];${moving(2)}[c];[a][b][c]concat=n=3`,
        sound: stereo(LEFT, RIGHT, 4.6),
      },
    ],
    ['variable-rate', '30000/1001, rounded by the container', { rate: '30000/1001', extra: ['-f', 'matroska'] }],
    ['rounded-rate', '30000/1001', { picture: moving(3, '192x108', 30), rate: '30000/1001' }],
    ['high-dynamic-range', 'wide colour at an ordinary range', { colour: colour('bt2020nc', 'bt2020', 'bt709') }],
    [
      'colour-tag-unusual',
      'HD tagged as HD',
      { picture: moving(1, '1280x720'), sound: stereo(LEFT, RIGHT, 1), colour: HD_COLOUR },
    ],
    ['colour-tag-unusual', 'small, and tagged as HD', { colour: HD_COLOUR }],
    ['black-ends', 'black inside', { picture: `${moving(1)}[a];${black(1)}[b];${moving(1)}[c];[a][b][c]concat=n=3` }],
    ['frozen', 'a second', { picture: `${moving(3)},loop=loop=25:size=1:start=40,trim=duration=3` }],
    ['thin-source', 'MPEG-2 at few bits', { encoding: ['-c:v', 'mpeg2video', '-qscale:v', '31'] }],
    ['sound-silent', 'no track at all', { sound: null }],
    ['out-of-phase', 'one side half turned round', { sound: stereo(LEFT, `0.4*(${RIGHT})-0.2*(${LEFT})`) }],
    ['channels-identical', 'one voice, one side quieter', { sound: stereo(LEFT, `0.8*(${LEFT})`) }],
    ['loudness-far', 'a little quiet', { sound: `${STEREO},volume=-3dB` }],
    ['true-peak-high', 'the same wave a decibel lower', { sound: truePeakBurst(0.85) }],
  ])('%s: %s', async (code, _, footage) => {
    expect(await codesOf(footage)).not.toContain(code);
  });
});

describe('a fix on real footage', () => {
  it('trims black off both ends, to the frame', async () => {
    const picture = `${black(0.6)}[a];${moving(2)}[b];${black(0.4)}[c];[a][b][c]concat=n=3`;
    const heard = (voice: string) => `(${voice})*between(t,0.6,2.599)`;
    const [advisory] = await adviceOn(drawFootage({ picture, sound: stereo(heard(LEFT), heard(RIGHT)) }));
    expect(advisory?.fix).toMatchObject({ kind: 'portion', portion: { inFrame: 15, outFrame: 64 } });
  });

  it('copies the streams of a small file, unless its sound is of no use in an MP4', async () => {
    const [withAac] = await adviceOn(drawFootage({ encoding: SMALL, audio: ['-c:a', 'aac', '-b:a', '128k'] }));
    const [withPcm] = await adviceOn(drawFootage({ encoding: SMALL }));
    expect(withAac).toMatchObject({ code: 'already-small', fix: { kind: 'copy' } });
    expect(withPcm).toMatchObject({ code: 'already-small' });
    expect(withPcm?.fix).toBeUndefined();
  });
});

/** Swells of a tone at a quarter of the sample rate, whose samples miss its crests, in ordinary sound. */
function truePeakBurst(level: number): string {
  const tone = `${level}*sin(2*PI*12000*t+PI/4)*pow(sin(20*PI*(t-1)),2)`;
  const withTone = (voice: string) => `if(between(t,1,1.05),${tone},${voice})`;
  return stereo(withTone(LEFT), withTone(RIGHT));
}
