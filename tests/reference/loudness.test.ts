import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { createEngine } from '../../src/engine/createEngine.ts';
import { analyseFile } from '../support/analyse.ts';
import { draw, makeFolder } from '../support/footage.ts';

// EBU Tech 3341 (loudness metering, test signals) and Tech 3342 (loudness range), made here; values from memory.
// Independent library: ebur128-wasm, a build of the ebur128 crate.
const folder = makeFolder();

/** The two functions of the package that are used here. */
interface Ebur128 {
  readonly ebur128_integrated_stereo: (sampleRate: number, left: Float32Array, right: Float32Array) => number;
  readonly ebur128_true_peak_stereo: (sampleRate: number, left: Float32Array, right: Float32Array) => number;
}
let ebur128: Ebur128;

beforeAll(async () => {
  // The package is made for bundlers, which import the binary as a module; here it is handed over.
  const packageFolder = 'node_modules/ebur128-wasm';
  const glue = path.join(folder, 'ebur128.mjs');
  const source = readFileSync(path.join(packageFolder, 'ebur128_wasm_bg.js'), 'utf8');
  writeFileSync(
    glue,
    source.replace(/^import \* as wasm .*$/m, 'let wasm;\nexport const use = (made) => { wasm = made; };'),
  );
  const module = (await import(/* @vite-ignore */ glue)) as Ebur128 & { use: (made: unknown) => void };
  const binary = readFileSync(path.join(packageFolder, 'ebur128_wasm_bg.wasm'));
  const { instance } = await WebAssembly.instantiate(binary, { './ebur128_wasm_bg.js': module as never });
  module.use(instance.exports);
  ebur128 = module;
});

/** Stereo 1 kHz sines at given levels in dBFS, one after another. */
function drawTones(name: string, parts: readonly (readonly [level: number, seconds: number])[], hertz = 1000): string {
  const sources = parts.map(
    ([level, seconds], index) =>
      `aevalsrc='${10 ** (level / 20)}*sin(2*PI*${hertz}*t)|${10 ** (level / 20)}*sin(2*PI*${hertz}*t)':s=48000:d=${seconds}[t${index}]`,
  );
  const inputs = parts.map((_, index) => `[t${index}]`).join('');
  const graph = `${sources.join(';')};${inputs}concat=n=${parts.length}:v=0:a=1[sound]`;
  return draw(path.join(folder, `${name}.wav`), ['-filter_complex', graph, '-map', '[sound]', '-c:a', 'pcm_s24le']);
}

function readSamples(file: string): [Float32Array, Float32Array] {
  const args = ['-v', 'error', '-i', file, '-ac', '2', '-ar', '48000', '-f', 'f32le', '-'];
  const raw = execFileSync('ffmpeg', args, { maxBuffer: 2 ** 30 });
  const all = new Float32Array(raw.buffer, raw.byteOffset, raw.length / 4);
  return [all.filter((_, index) => index % 2 === 0), all.filter((_, index) => index % 2 === 1)];
}

describe('loudness of the signals of EBU Tech 3341', () => {
  it.each<readonly [string, readonly (readonly [number, number])[], number]>([
    ['1', [[-23, 20]], -23],
    ['2', [[-33, 20]], -33],
    [
      '3',
      [
        [-36, 10],
        [-23, 60],
        [-36, 10],
      ],
      -23,
    ],
    [
      '4',
      [
        [-72, 10],
        [-36, 10],
        [-23, 60],
        [-36, 10],
        [-72, 10],
      ],
      -23,
    ],
    [
      '5',
      [
        [-26, 20],
        [-20, 20.1],
        [-26, 20],
      ],
      -23,
    ],
  ])('case %s', async (name, parts, lufs) => {
    const loudness = (await analyseFile(drawTones(`case ${name}`, parts))).findings.loudness;
    expect(Math.abs(loudness!.integratedLufs - lufs)).toBeLessThanOrEqual(0.1);
  });

  it('997 Hz at full scale reads −3.01 LUFS in one channel and 0.0 in both (ITU-R BS.1770)', async () => {
    const both = drawTones('full', [[0, 5]], 997);
    expect((await analyseFile(both)).findings.loudness?.integratedLufs).toBeCloseTo(0, 1);
    const one = draw(path.join(folder, 'one.wav'), [
      '-i',
      both,
      '-af',
      'pan=stereo|c0=c0|c1=0*c0',
      '-c:a',
      'pcm_s24le',
    ]);
    expect((await analyseFile(one)).findings.loudness?.integratedLufs).toBeCloseTo(-3.01, 1);
  });
});

describe('loudness range of EBU Tech 3342', () => {
  it.each<readonly [string, number, number, number]>([
    ['1', -20, -30, 10],
    ['2', -20, -15, 5],
    ['3', -40, -20, 20],
  ])('case %s', async (name, first, second, range) => {
    const file = drawTones(`range ${name}`, [
      [first, 20],
      [second, 20],
    ]);
    expect(Math.abs((await analyseFile(file)).findings.loudness!.rangeLu - range)).toBeLessThanOrEqual(1);
  });
});

describe('against an independent library', () => {
  it.each([
    ['swelling chord', 'aevalsrc=0.3*sin(2*PI*220*t)*(1+sin(t/2))|0.25*sin(2*PI*331*t)*(1+cos(t/3)):s=48000:d=20'],
    [
      'noise with gaps',
      "anoisesrc=d=20:c=pink:r=48000:a=0.4:seed=4,volume='if(gt(mod(t,5),3),0.02,1)':eval=frame,pan=stereo|c0=c0|c1=0.5*c0",
    ],
  ])('%s has the same loudness and true peak', async (name, source) => {
    const file = draw(path.join(folder, `${name}.wav`), ['-f', 'lavfi', '-i', source, '-c:a', 'pcm_s24le']);
    const { loudness } = (await analyseFile(file)).findings;
    const [left, right] = readSamples(file);
    expect(loudness!.integratedLufs).toBeCloseTo(ebur128.ebur128_integrated_stereo(48000, left, right), 1);
    const peak = ebur128.ebur128_true_peak_stereo(48000, left, right);
    // Different interpolation filters: BS.1770 allows what is under the true value by some tenths.
    expect(Math.abs(loudness!.truePeakDbtp - peak)).toBeLessThan(0.3);
  });
});

describe('the loudness of a finished file', () => {
  const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });

  // Cases 1 and 2 of EBU Tech 3341: 1 kHz at −23 and −33 dBFS in both channels reads as such within 0.1 LU.
  it.each([-23, -33])('at %i dBFS reads as such', async (level) => {
    const { lufs, truePeakDbtp } = await engine.measureLoudness(drawTones(`finished ${level}.wav`, [[level, 5]]), 0);
    expect(Math.abs(lufs - level)).toBeLessThanOrEqual(0.1);
    expect(Math.abs(truePeakDbtp - level)).toBeLessThanOrEqual(0.2);
  });

  it('that is silent has none', async () => {
    const silent = draw(path.join(folder, 'silent.wav'), ['-f', 'lavfi', '-i', 'anullsrc=r=48000:cl=stereo:d=2']);
    expect((await engine.measureLoudness(silent, 0)).lufs).toBe(-Infinity);
  });
});
