import { describe, expect, it } from 'vitest';
import type { AnalysisStretch } from '../../core/analysis/planAnalysis.ts';
import { createAnalysisReader } from './analysis.ts';

const WHOLE: AnalysisStretch = {
  inFrame: 0,
  frameCount: 3,
  startSeconds: 0,
  seconds: 0.12,
  opening: { atSeconds: 0, skipSeconds: 0 },
  leadFrames: 0,
  leadSeconds: 0,
};
const LATER: AnalysisStretch = { ...WHOLE, inFrame: 1500, startSeconds: 60, leadFrames: 2, leadSeconds: 0.2 };
const SIZE = { width: 1920, height: 1080 };

function frame(black: number, difference = 1, score = 0): string[] {
  return [
    '[metadata@frame @ 0x1] frame:0    pts:0       pts_time:0',
    `[metadata@frame @ 0x1] lavfi.blackframe.pblack=${black}`,
    `[metadata@frame @ 0x1] lavfi.scd.mafd=${difference}`,
    `[metadata@frame @ 0x1] lavfi.scd.score=${score}`,
  ];
}

function edge(kind: 'dark' | 'dim', top: number, bottom: number): string[] {
  return [
    `[metadata@${kind} @ 0x1] frame:0    pts:0       pts_time:0`,
    ...Object.entries({ x1: 0, x2: 1919, y1: top, y2: bottom }).map(
      ([side, value]) => `[metadata@${kind} @ 0x1] lavfi.cropdetect.${side}=${value}`,
    ),
  ];
}

function step(momentary: string, left: string, truePeak: string): string[] {
  return [
    '[ametadata@sound @ 0x2] frame:0    pts:0       pts_time:0',
    `[ametadata@sound @ 0x2] lavfi.r128.M=${momentary}`,
    `[ametadata@sound @ 0x2] lavfi.r128.S=${momentary}`,
    `[ametadata@sound @ 0x2] lavfi.r128.true_peaks_ch0=${truePeak}`,
    `[ametadata@sound @ 0x2] lavfi.astats.1.Peak_level=${left}`,
  ];
}

describe('reading an analysis', () => {
  it('takes what is measured of each frame, and leaves the lead out', () => {
    const reader = createAnalysisReader(LATER, 0);
    for (const line of [...frame(100), ...frame(100), ...frame(40, 2), ...frame(0, 10, 33.456)]) {
      expect(reader.readLog(line)).toBe(true);
    }
    expect(reader.framesRead()).toBe(4);
    expect(reader.picture(SIZE, 25)).toMatchObject({ black: [40, 0], difference: [5.12, 25.6], change: [0, 33.46] });
  });

  it('gives bars in the picture’s own pixels, and none for a black frame', () => {
    const reader = createAnalysisReader(WHOLE, 0);
    const samples = [...edge('dark', 138, 941), ...edge('dim', 140, 941), ...edge('dark', 0, 0), ...edge('dim', 0, 0)];
    for (const line of [...frame(20), ...frame(100), ...samples]) reader.readLog(line);
    expect(reader.picture(SIZE, 1).bars).toEqual([
      { dark: { top: 138, bottom: 138, left: 0, right: 0 }, dim: { top: 140, bottom: 138, left: 0, right: 0 } },
    ]);
  });

  it('counts fields after the first two of each burst', () => {
    const reader = createAnalysisReader(WHOLE, 0);
    for (let number = 0; number < 24; number += 1) {
      reader.readLog(`[metadata@field @ 0x1] frame:${number}    pts:${number}       pts_time:0`);
      reader.readLog(`[metadata@field @ 0x1] lavfi.idet.multiple.current_frame=${number < 12 ? 'tff' : 'progressive'}`);
    }
    expect(reader.picture(SIZE, 25).fields).toEqual({
      topFirst: 10,
      progressive: 10,
      bottomFirst: 0,
      undetermined: 0,
    });
  });

  it('puts damage beside the frame it spoilt, from the programme’s start', () => {
    const reader = createAnalysisReader(LATER, 0);
    // Before the first frame it is only the way to a keyframe.
    expect(reader.readLog('/film.mov: corrupt decoded frame in stream 0')).toBe(false);
    for (const line of [...frame(0), ...frame(0), ...frame(0)]) reader.readLog(line);
    reader.readLog('[h264 @ 0x3] error while decoding MB 12 34, bytestream -5');
    expect(reader.picture(SIZE, 25).damaged).toEqual([1501]);
  });

  it('takes the packets of the fast encode in bits', () => {
    const reader = createAnalysisReader(WHOLE, 0);
    for (const line of [
      '#tb 0: 1/25',
      '0,          0,          0,        1,     1250, 0x1234',
      '0, 1, 1, 1, 10, 0x1, F=0x0',
    ])
      reader.readPacket(line);
    expect(reader.picture(SIZE, 25).bits).toEqual([10_000, 80]);
  });

  it('takes sound ten times a second after its lead, silence as −120 dB', () => {
    const reader = createAnalysisReader(LATER, 1);
    const lines = [
      ...step('-10', '-1.0', '0.9'),
      ...step('-10', '-1.0', '0.9'),
      ...step('-120.691', '-inf', '0.000'),
      ...step('-23.5', '-6.5', '0.501'),
    ];
    for (const line of lines) reader.readLog(line);
    expect(reader.sound()).toMatchObject({ momentary: [-120, -23.5], peaks: [[-120, -6.5]], sum: [], truePeak: -6 });
  });

  it('keeps every other line for the log', () => {
    const reader = createAnalysisReader(WHOLE, 2);
    expect(reader.readLog('Input #0, mov,mp4, from film.mov:')).toBe(false);
  });
});
