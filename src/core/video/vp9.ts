import { NO_CHOICES, type RatedDefinition } from './definition.ts';

/** VP9 (the WebM project's bitstream specification). */
export const vp9: RatedDefinition = {
  kind: 'rated',
  name: 'VP9',
  hint: 'Plays in every browser but old ones; smaller than H.264, and slow to make.',
  containers: ['webm', 'mp4', 'matroska'],
  formats: ['420p8', '420p10', '420p12', '422p8', '422p10', '422p12', '444p8', '444p10', '444p12', '420p8a'],
  // A second picture beside each frame (the WebM project's alpha channel, over Matroska's BlockAdditions, RFC 9559).
  transparentIn: ['webm', 'matroska'],
  // Players that know nothing of transparency show the picture without it.
  playedFormats: ['420p8', '420p10', '420p8a'],
  playsEverywhere: false,
  smallestSide: 32,
  quality: {
    best: 0,
    worst: 63,
    // Common practice, no source: about 31 at 720 lines.
    usual: 32,
    step: 1,
    tellingStep: 1,
    hint: 'Lower is better: 30 to 36 is usual; a step changes the size by about 7 per cent. (crf)',
    finestSensible: 15,
    sounded: [15, 24, 32, 38, 46, 63],
    slope: -0.07,
    // In one pass it has no frames of reference made ahead: 17 to 22 % larger for the same picture (measured).
    passes: 2,
    takesKeyframes: false,
  },
  averagePasses: [2],
  // Measured at 360 lines: 112 % over at 200 kb/s, 1,583 % over at 600.
  passFault: 'VP9 does not hold an average rate in one pass: it came out at twice to sixteen times what was asked.',
  // Measured at 180 lines: up to 28 % more than the buffer holds.
  bufferFault: 'The VP9 encoder does not keep within a highest rate: it overran its buffer by up to a quarter.',
  // The WebM project's VP9 levels: luma samples per second and per picture; values from memory. Eight pictures are held at most.
  levels: {
    unitSide: 1,
    levels: (
      [
        ['1', 829440, 36864, 200],
        ['1.1', 2764800, 73728, 800],
        ['2', 4608000, 122880, 1800],
        ['2.1', 9216000, 245760, 3600],
        ['3', 20736000, 552960, 7200],
        ['3.1', 36864000, 983040, 12000],
        ['4', 83558400, 2228224, 18000],
        ['4.1', 160432128, 2228224, 30000],
        ['5', 311951360, 8912896, 60000],
        ['5.1', 588251136, 8912896, 120000],
        ['5.2', 1176502272, 8912896, 180000],
      ] as const
    ).map(([name, perSecond, perFrame, kbps]) => ({ name, perSecond, perFrame, held: perFrame * 8, kbps })),
  },
  tellsLight: false,
  effortWords: { fast: 'cpu-used 5', balanced: 'cpu-used 3', thorough: 'cpu-used 1' },
  work: { fast: 9, balanced: 9.3, thorough: 18 },
  firstPass: 0.07,
  heldFrames: { fast: 8, balanced: 8, thorough: 8 },
  fine: { ...NO_CHOICES, tunes: { film: 'tune-content film' }, marks: true },
  setUpBytes: 0,
  // `vpcC` and `fiel`; frames that are not shown lie inside those that are.
  inMp4: { parameterSetBytes: 20, brandBytes: 0, otherBytes: 10, bytesPerFrame: 0, reorders: false },
  // Files as our engine writes and reads them say no level.
  nameLevel: () => null,
  // Profile, level, depth; browsers go by the profile and the depth (measured with Chromium).
  plannedString: (level, format) => {
    const number = level.includes('.') ? level.replace('.', '') : `${level}0`;
    return (
      { '420p8': `vp09.00.${number}.08`, '420p8a': `vp09.00.${number}.08`, '420p10': `vp09.02.${number}.10` }[
        format as string
      ] ?? null
    );
  },
  webString: ({ bitDepth }) => (bitDepth === 8 ? 'vp09.00.10.08' : null),
};
