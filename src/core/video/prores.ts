import type { Flavour, MasterDefinition } from './definition.ts';

/** Pixels of a second at 1920 × 1080 and 29.97 fps, for which the target rates are known. */
const PIXELS_A_SECOND = 1920 * 1080 * (30000 / 1001);

/** Simple pictures come out far smaller, and none much larger (measured). */
function flavour(key: string, name: string, hint: string, formats: Flavour['formats'], mbps: number): Flavour {
  const likely = (mbps * 1e6) / PIXELS_A_SECOND;
  return {
    key,
    name,
    hint,
    formats,
    bitsPerPixel: () => ({ least: likely * 0.15, likely: likely * 0.8, most: likely * 1.15 }),
  };
}

const FULL_COLOUR = ['444p10', '444p10a'] as const;

/** The mezzanine of SMPTE RDD 36: every frame by itself. Target rates in Mb/s (common practice, from memory). */
export const prores: MasterDefinition = {
  kind: 'master',
  name: 'ProRes',
  hint: 'For editing and hand-over: every frame by itself, large.',
  containers: ['mov', 'matroska'],
  formats: ['422p10', '444p10', '444p10a'],
  transparentIn: ['mov', 'matroska'],
  playsEverywhere: false,
  smallestSide: 16,
  work: 1.4,
  isLossless: false,
  flavours: [
    flavour('proxy', 'Proxy', 'For cutting on small machines.', ['422p10'], 45),
    flavour('lt', 'LT', 'Lighter, still good to cut.', ['422p10'], 102),
    flavour('standard', 'Standard', 'The usual mezzanine.', ['422p10'], 147),
    flavour('hq', 'HQ', 'For grading and hand-over.', ['422p10'], 220),
    flavour('4444', '4444', 'Full colour for each pixel, and transparency.', FULL_COLOUR, 330),
  ],
  setUpBytes: 0,
  // `fiel`; every frame is a keyframe, so the table of keyframes is left out.
  inMp4: { parameterSetBytes: 0, brandBytes: 0, otherBytes: 10, bytesPerFrame: 0, reorders: false },
  nameLevel: () => null,
  webString: () => null,
};
