import { partsOf, samplesOf, type PixelFormat } from '../picture/store.ts';
import type { MasterDefinition } from './definition.ts';

const FORMATS: readonly PixelFormat[] = [
  ...['420p8', '420p10', '420p12', '420p16'],
  ...['422p8', '422p10', '422p12', '422p16'],
  ...['444p8', '444p10', '444p12', '444p16'],
  // With transparency its encoder takes no 12 bits; 16 hold them.
  ...['420p8a', '444p8a', '444p10a', '444p16a'],
] as const;

/** FFV1 version 3 (RFC 9043): lossless, every frame by itself, each slice with a checksum. */
export const ffv1: MasterDefinition = {
  kind: 'master',
  name: 'FFV1',
  hint: 'For the archive: nothing is lost, and the file is very large.',
  containers: ['matroska'],
  formats: FORMATS,
  transparentIn: ['matroska'],
  playsEverywhere: false,
  smallestSide: 16,
  work: 0.4,
  isLossless: true,
  flavours: [
    {
      key: 'lossless',
      name: 'lossless',
      hint: 'As the pixels are stored.',
      formats: FORMATS,
      // From flat pictures to noise, which does not shrink; half of what is stored as a rule.
      bitsPerPixel: (format) => {
        const stored = samplesOf(format) * partsOf(format).depth;
        return { least: stored * 0.025, likely: stored * 0.5, most: stored * 1.04 };
      },
    },
  ],
  setUpBytes: 60,
  inMp4: null,
  nameLevel: () => null,
  webString: () => null,
};
