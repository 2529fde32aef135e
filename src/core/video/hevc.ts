import type { RatedDefinition } from './definition.ts';

/** ITU-T H.265. */
export const hevc: RatedDefinition = {
  kind: 'rated',
  name: 'HEVC',
  hint: 'Smaller for the same picture; many browsers do not play it.',
  containers: ['mp4', 'mov', 'matroska'],
  formats: ['420p8', '420p10', '420p12', '422p8', '422p10', '422p12', '444p8', '444p10', '444p12'],
  transparentIn: [],
  playedFormats: ['420p8'],
  playsEverywhere: false,
  // At least one coding block.
  smallestSide: 32,
  quality: {
    best: 0,
    worst: 51,
    usual: 24,
    step: 0.01,
    tellingStep: 0.02,
    hint: 'Lower is better: 23 to 26 is usual, up to 30 where there is little detail; a value looks a little better than the same in H.264. (crf)',
    finestSensible: 12,
    sounded: [12, 18, 22, 26, 32, 51],
    slope: -0.14,
    passes: 1,
    takesKeyframes: true,
  },
  averagePasses: [1, 2],
  passFault: '',
  bufferFault: '',
  // Tables A.8 and A.9 of ITU-T H.265, in luma samples, Main and High tier; six of the largest pictures are held; 6 to 6.2 from memory.
  levels: {
    unitSide: 1,
    levels: (
      [
        ['3.0', 552960, 16588800, 6000, null],
        ['3.1', 983040, 33177600, 10000, null],
        ['4.0', 2228224, 66846720, 12000, 30000],
        ['4.1', 2228224, 133693440, 20000, 50000],
        ['5.0', 8912896, 267386880, 25000, 100000],
        ['5.1', 8912896, 534773760, 40000, 160000],
        ['5.2', 8912896, 1069547520, 60000, 240000],
        ['6.0', 35651584, 1069547520, 60000, 240000],
        ['6.1', 35651584, 2139095040, 120000, 480000],
        ['6.2', 35651584, 4278190080, 240000, 800000],
      ] as const
    ).map(([name, perFrame, perSecond, kbps, high]) => ({
      name,
      perSecond,
      perFrame,
      held: perFrame * 6,
      kbps,
      ...(high === null ? {} : { highTierKbps: high }),
    })),
  },
  tellsLight: true,
  effortWords: { fast: 'preset veryfast', balanced: 'preset medium', thorough: 'preset slow' },
  work: { fast: 3.1, balanced: 4.4, thorough: 10 },
  firstPass: 1.1,
  heldFrames: { fast: 4, balanced: 4, thorough: 5 },
  fine: {
    tunes: { drawn: 'tune animation', grain: 'tune grain' },
    profiles: {},
    level: true,
    tier: true,
    bFrames: true,
    closedGroups: true,
    scenes: true,
    marks: true,
  },
  setUpBytes: 130,
  // `fiel`, and a byte for every frame saying what depends on it (`sdtp`).
  inMp4: { parameterSetBytes: 134, brandBytes: 0, otherBytes: 10 + 12, bytesPerFrame: 1, reorders: true },
  nameLevel: (stored) => (stored > 0 ? (stored / 30).toFixed(1) : null),
  // Some browsers play its sound and show nothing, without saying so.
  webString: () => null,
  // Main or Main 10, Main tier, and the level thirtyfold (ISO/IEC 14496-15, annex E).
  plannedString: (level, format) => {
    const profile = { '420p8': '1.6', '420p10': '2.4' }[format as string];
    return profile ? `hvc1.${profile}.L${Math.round(Number(level) * 30)}.B0` : null;
  },
};
