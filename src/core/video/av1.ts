import { partsOf } from '../picture/store.ts';
import { NO_CHOICES, type RatedDefinition } from './definition.ts';

function webString(level: string | null, depth: number): string | null {
  const [major, minor] = (level ?? '').split('.').map(Number);
  if (major === undefined || minor === undefined || Number.isNaN(major)) return null;
  const index = String((major - 2) * 4 + minor).padStart(2, '0');
  return `av01.0.${index}M.${String(depth).padStart(2, '0')}`;
}

/** AV1 (the Alliance's bitstream specification and its mappings). */
export const av1: RatedDefinition = {
  kind: 'rated',
  name: 'AV1',
  hint: 'The smallest for the same picture; plays in new browsers, and older devices labour with it.',
  containers: ['mp4', 'webm', 'matroska'],
  formats: ['420p8', '420p10'],
  transparentIn: [],
  playedFormats: ['420p8', '420p10'],
  playsEverywhere: false,
  smallestSide: 64,
  quality: {
    best: 1,
    worst: 63,
    // Common practice, no source.
    usual: 35,
    step: 1,
    tellingStep: 1,
    hint: 'Lower is better: 30 to 40 is usual; a step changes the size by about 7 per cent. (crf)',
    finestSensible: 15,
    sounded: [15, 22, 29, 35, 43, 63],
    slope: -0.07,
    passes: 1,
    takesKeyframes: false,
  },
  averagePasses: [1],
  passFault: 'The AV1 encoder of this machine has no second pass: asked for two, it writes nothing.',
  // Measured at 180 lines: 11 to 60 % more than the buffer holds.
  bufferFault: 'The AV1 encoder does not keep within a highest rate: it overran its buffer by up to a half.',
  // A.3 of the AV1 specification, Main tier: picture samples, and samples a second; eight pictures are held.
  levels: {
    unitSide: 1,
    levels: (
      [
        ['2.0', 147456, 4423680, 1500],
        ['2.1', 278784, 8363520, 3000],
        ['3.0', 665856, 19975680, 6000],
        ['3.1', 1065024, 31950720, 10000],
        ['4.0', 2359296, 70778880, 12000],
        ['4.1', 2359296, 141557760, 20000],
        ['5.0', 8912896, 267386880, 30000],
        ['5.1', 8912896, 534773760, 40000],
        ['5.2', 8912896, 1069547520, 60000],
        ['6.0', 35651584, 1069547520, 60000],
      ] as const
    ).map(([name, perFrame, perSecond, kbps]) => ({ name, perSecond, perFrame, held: perFrame * 8, kbps })),
  },
  tellsLight: true,
  effortWords: { fast: 'preset 10', balanced: 'preset 8', thorough: 'preset 5' },
  work: { fast: 3.6, balanced: 8.5, thorough: 26 },
  firstPass: 1,
  heldFrames: { fast: 8, balanced: 8, thorough: 8 },
  // Its groups are closed, at a fixed distance, and its encoder orders frames as it likes.
  fine: NO_CHOICES,
  setUpBytes: 30,
  // `av1C`; `fiel`, and a byte for every frame saying what depends on it (`sdtp`). Frames lie in the order they are shown.
  inMp4: { parameterSetBytes: 27, brandBytes: 4, otherBytes: 10 + 12, bytesPerFrame: 1, reorders: false },
  nameLevel: (stored) => (stored < 31 ? `${2 + (stored >> 2)}.${stored & 3}` : null),
  webString: ({ level, bitDepth, profile }) => (profile === 'Main' ? webString(level, bitDepth) : null),
  plannedString: (level, format) => webString(level, partsOf(format).depth),
};
