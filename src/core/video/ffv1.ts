import type { MasterDefinition } from './definition.ts';

/** FFV1 version 3 (RFC 9043): lossless, every frame by itself, each slice with a checksum. */
export const ffv1: MasterDefinition = {
  kind: 'master',
  name: 'FFV1',
  hint: 'For the archive: nothing is lost, and the file is very large.',
  containers: ['matroska'],
  formats: ['420p8', '420p10', '422p8', '422p10', '444p8', '444p10', '420p8a', '444p8a', '444p10a'],
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
      formats: ['420p8', '420p10', '422p8', '422p10', '444p8', '444p10', '420p8a', '444p8a', '444p10a'],
      // From flat pictures to noise, which does not shrink: 12 bits a pixel in 4:2:0 of 8 bits, half of it as a rule.
      bitsPerPixel: { least: 0.3, likely: 6, most: 31 },
    },
  ],
  setUpBytes: 60,
  inMp4: null,
  nameLevel: () => null,
  webString: () => null,
};
