import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { AS_IT_IS } from '../../src/core/geometry/preparation.ts';
import { planPicture } from '../../src/core/plan/planPicture.ts';
import type { ProgrammeFacts } from '../../src/core/programme/facts.ts';
import type { FrameClock } from '../../src/core/timing/frameClock.ts';
import { AS_ENCODER_LIKES } from '../../src/core/video/fine.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { masterRequest } from '../../src/server/stills/stillRequests.ts';
import { lookAtFile } from '../support/analyse.ts';
import { draw, makeFolder, NUMBERED_SIZE, numberedSource, readNumber } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const FRAMES = 300;

const TRANSPORT = ['-f', 'mpegts'] as const;
const OFFSET_TRANSPORT = [...TRANSPORT, '-output_ts_offset', '100'] as const;

/** Every kind of file a frame number could go wrong in. */
const SOURCES: readonly (readonly [name: string, rate: string, args: readonly string[]])[] = [
  ['mp4 with B-frames', '25', ['-c:v', 'libx264', '-bf', '3', '-g', '50']],
  ['mov at 60000/1001', '60000/1001', ['-c:v', 'libx264', '-g', '90']],
  ['matroska at 60000/1001, stamps in milliseconds', '60000/1001', ['-c:v', 'libx264', '-g', '90', '-f', 'matroska']],
  ['matroska at 24000/1001', '24000/1001', ['-c:v', 'libx264', '-f', 'matroska']],
  ['transport stream that starts late', '25', ['-c:v', 'libx264', '-g', '40', '-f', 'mpegts', '-muxdelay', '1.4']],
  ['transport stream of MPEG-2', '25', ['-c:v', 'mpeg2video', '-b:v', '2M', '-bf', '2', '-g', '15', '-f', 'mpegts']],
  [
    'transport stream of open groups that starts at 100 s',
    '30000/1001',
    [...['-c:v', 'libx264', '-g', '60', '-bf', '3', '-x264-params', 'open-gop=1'], ...OFFSET_TRANSPORT],
  ],
  ['transport stream of HEVC', '50', ['-c:v', 'libx265', '-x265-params', 'log-level=error:keyint=50', ...TRANSPORT]],
  ['programme stream, whose pictures lack times', '25', ['-c:v', 'mpeg2video', '-g', '15', '-bf', '2', '-f', 'mpeg']],
  ['flv', '25', ['-c:v', 'libx264', '-g', '50', '-bf', '3', '-f', 'flv']],
  ['intra-only at 24', '24', ['-c:v', 'mjpeg', '-q:v', '2', '-f', 'mov']],
];

/** The numbers that so many frames carry. */
async function numbersOf(file: string, facts: ProgrammeFacts, clock: FrameClock, frames: readonly number[]) {
  const requests = frames.map((frame) => masterRequest(file, facts, clock, frame, NUMBERED_SIZE));
  return (await engine.rawFrames(requests)).map(readNumber);
}

describe('an exact frame', () => {
  it.each(SOURCES)('of %s is the numbered one', async (name, rate, args) => {
    const file = draw(path.join(folder, `${name.replace(/\W+/g, '-')}.mp4`), [
      ...['-f', 'lavfi', '-i', numberedSource(rate, FRAMES), '-pix_fmt', 'yuv420p', ...args],
      ...(args.includes('-f') ? [] : ['-f', 'mp4']),
    ]);
    const { facts, clock } = await lookAtFile(file);
    expect(facts.frameCount).toBe(FRAMES);
    expect(`${facts.frameRate.num}/${facts.frameRate.den}`).toBe(rate.includes('/') ? rate : `${rate}/1`);
    expect(facts.video?.constantRate).toBe(true);
    const frames = [0, 1, 2, 39, 40, 41, 89, 90, 149, 233, 298, 299];
    expect(await numbersOf(file, facts, clock, frames)).toEqual(frames);
  });

  it('and a portion of a transport stream are found by time, without reading from the start', async () => {
    const file = draw(path.join(folder, 'broadcast.ts'), [
      ...['-f', 'lavfi', '-i', numberedSource('25', FRAMES), '-f', 'lavfi', '-i', 'sine=duration=12:sample_rate=48000'],
      ...[
        '-pix_fmt',
        'yuv420p',
        '-c:v',
        'libx264',
        '-g',
        '50',
        '-sc_threshold',
        '0',
        '-bf',
        '3',
        '-c:a',
        'mp2',
        ...TRANSPORT,
      ],
    ]);
    const { facts, clock } = await lookAtFile(file);
    expect(facts.video).toMatchObject({ seeksExactly: true, seekLeadSeconds: 4 });
    expect(masterRequest(file, facts, clock, 250, null).opening.atSeconds).toBeGreaterThan(5);
    const span = { inFrame: 187, frameCount: 60 };
    const picture = planPicture({
      facts,
      video: facts.video!,
      size: NUMBERED_SIZE,
      preparation: AS_IT_IS,
      frames: span,
      clock,
      format: '420p8',
      rate: null,
    });
    const output = path.join(folder, 'portion.mp4');
    await engine.encodePicture(
      {
        ...picture,
        kind: 'picture',
        do: {
          kind: 'encode',
          codec: 'h264',
          effort: 'fast',
          keyframeInterval: 50,
          fine: AS_ENCODER_LIKES,
          rate: { kind: 'quality', buffer: null, value: 10 },
        },
      },
      { target: { kind: 'quality', value: 10 }, buffer: null, pass: 'only', fill: null },
      { source: file, sound: null, container: 'mp4', output, labels: null },
      { workingFolder: folder, signal: new AbortController().signal, onProgress: () => undefined },
    );
    const result = await lookAtFile(output);
    expect(result.facts.frameCount).toBe(60);
    const frames = [0, 1, 30, 59];
    const shown = await numbersOf(output, result.facts, result.clock, frames);
    expect(shown).toEqual(frames.map((frame) => span.inFrame + frame));
  });

  it.each([
    ['mp4', 'N+floor(N/7)*3', true],
    ['mkv', 'N+floor(N/7)*3', true],
    // Two frames at one time cannot be told apart by it, so they are counted.
    ['mov', 'floor(N*0.9)+floor(N/7)*3', false],
  ])('of a variable-rate %s at %s is the numbered one', async (kind, time, seeksExactly) => {
    const file = draw(path.join(folder, `variable.${kind}`), [
      ...['-f', 'lavfi', '-i', `${numberedSource('25', 90)},setpts='${time}'`],
      ...['-fps_mode', 'passthrough', '-c:v', 'libx264', '-g', '30'],
    ]);
    const { facts, clock } = await lookAtFile(file);
    expect(facts.video).toMatchObject({ constantRate: false, seeksExactly });
    expect(facts.frameCount).toBe(90);
    const frames = [0, 8, 44, 89];
    expect(await numbersOf(file, facts, clock, frames)).toEqual(frames);
  });

  it('beyond the end is refused', async () => {
    const file = draw(path.join(folder, 'short.mp4'), [
      '-f',
      'lavfi',
      '-i',
      numberedSource('25', 10),
      '-c:v',
      'libx264',
      '-f',
      'mp4',
    ]);
    const { facts, clock } = await lookAtFile(file);
    await expect(numbersOf(file, facts, clock, [40])).rejects.toMatchObject({
      code: 'frame-outside',
    });
  });
});
