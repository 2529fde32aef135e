import type { RatedDefinition } from './definition.ts';

/** Profile and constraint bytes in codec strings (RFC 6381), by the profile's name. */
const PROFILE_BYTES: Readonly<Record<string, string>> = {
  'Constrained Baseline': '42E0',
  Baseline: '4200',
  Main: '4D40',
  High: '6400',
};

/** As it is called in files, for each that can be fixed. */
const PROFILE_NAMES = { baseline: 'Constrained Baseline', main: 'Main', high: 'High' } as const;

function webString(profile: string | null, level: string | null): string | null {
  const bytes = PROFILE_BYTES[profile ?? ''];
  if (!bytes || !level) return null;
  const levelByte = Math.round(Number(level) * 10).toString(16);
  return `avc1.${bytes}${levelByte.toUpperCase().padStart(2, '0')}`;
}

/** ITU-T H.264. */
export const h264: RatedDefinition = {
  kind: 'rated',
  name: 'H.264',
  hint: 'Plays everywhere.',
  containers: ['mp4', 'mov', 'matroska'],
  formats: ['420p8', '420p10', '422p8', '422p10', '444p8', '444p10'],
  transparentIn: [],
  playedFormats: ['420p8'],
  playsEverywhere: true,
  smallestSide: 32,
  quality: {
    best: 0,
    worst: 51,
    // Common practice, no source: 22 to 24.
    usual: 23,
    step: 0.01,
    tellingStep: 0.02,
    hint: 'Lower is better: 22 to 24 is usual, up to 28 where there is little detail. (crf)',
    finestSensible: 12,
    sounded: [12, 18, 22, 26, 32, 51],
    slope: -0.14,
    passes: 1,
    takesKeyframes: true,
  },
  averagePasses: [1, 2],
  passFault: '',
  bufferFault: '',
  // Table A-1 of ITU-T H.264, in macroblocks, with the rates of High profile (1.25 times those of Main); 6 to 6.2 from memory.
  levels: {
    unitSide: 16,
    levels: (
      [
        ['1.0', 1485, 99, 396, 64],
        ['1.1', 3000, 396, 900, 192],
        ['1.2', 6000, 396, 2376, 384],
        ['1.3', 11880, 396, 2376, 768],
        ['2.0', 11880, 396, 2376, 2000],
        ['2.1', 19800, 792, 4752, 4000],
        ['2.2', 20250, 1620, 8100, 4000],
        ['3.0', 40500, 1620, 8100, 10000],
        ['3.1', 108000, 3600, 18000, 14000],
        ['3.2', 216000, 5120, 20480, 20000],
        ['4.0', 245760, 8192, 32768, 20000],
        ['4.1', 245760, 8192, 32768, 50000],
        ['4.2', 522240, 8704, 34816, 50000],
        ['5.0', 589824, 22080, 110400, 135000],
        ['5.1', 983040, 36864, 184320, 240000],
        ['5.2', 2073600, 36864, 184320, 240000],
        ['6.0', 4177920, 139264, 696320, 240000],
        ['6.1', 8355840, 139264, 696320, 480000],
        ['6.2', 16711680, 139264, 696320, 800000],
      ] as const
    ).map(([name, perSecond, perFrame, held, kbps]) => ({ name, perSecond, perFrame, held, kbps: kbps * 1.25 })),
  },
  tellsLight: false,
  effortWords: { fast: 'preset veryfast', balanced: 'preset medium', thorough: 'preset slow' },
  work: { fast: 1, balanced: 2.5, thorough: 3.4 },
  firstPass: 0.4,
  heldFrames: { fast: 4, balanced: 4, thorough: 5 },
  fine: {
    tunes: {
      film: 'tune film',
      drawn: 'tune animation',
      grain: 'tune grain',
      still: 'tune stillimage',
    },
    // Annex A of ITU-T H.264; what else pixels need follows from how they are stored.
    profiles: {
      baseline: {
        name: 'Constrained Baseline',
        hint: 'For very old players: nothing stored out of order.',
        formats: ['420p8'],
        reorders: false,
      },
      main: { name: 'Main', hint: 'For old players.', formats: ['420p8'], reorders: true },
      high: { name: 'High', hint: 'What everything in use plays.', formats: ['420p8'], reorders: true },
    },
    level: true,
    tier: false,
    bFrames: true,
    closedGroups: true,
    scenes: true,
    marks: true,
  },
  setUpBytes: 60,
  inMp4: { parameterSetBytes: 56, brandBytes: 4, otherBytes: 0, bytesPerFrame: 0, reorders: true },
  nameLevel: (stored) => (stored === 9 ? '1b' : stored > 0 ? (stored / 10).toFixed(1) : null),
  webString: ({ profile, level }) => webString(profile, level),
  plannedString: (level, format, profile) =>
    format === '420p8' ? webString(PROFILE_NAMES[profile ?? 'high'], level) : null,
};
