import type { ColourTags, VideoFacts } from './facts.ts';

/** Colour with nothing left open: what the pixels are taken to be and what the result will be tagged as. */
export interface Colour {
  readonly primaries: string;
  readonly transfer: string;
  readonly matrix: string;
}

/** Above this height an untagged picture is HD, thus BT.709; at or below it SD, thus BT.601 (common practice). */
export const SD_MAX_HEIGHT = 576;

/**
 * What the pixels of a source are taken to be. Tags win; where a tag is missing, the custom of the frame size decides:
 * BT.601 for SD, BT.709 for HD (ITU-R BT.601, BT.709), BT.2020 for high dynamic range (ITU-R BT.2100). RGB has no matrix of its own, so it becomes BT.709.
 *
 * @param height - Of the stored frame.
 */
export function assumeColour(tags: ColourTags, height: number): Colour {
  const custom = isHighTransfer(tags) ? HIGH_RANGE : customColour(height);
  const matrix = tags.matrix === 'gbr' ? 'bt709' : (tags.matrix ?? custom.matrix);
  return {
    primaries: tags.primaries ?? custom.primaries,
    transfer: tags.transfer ?? custom.transfer,
    matrix,
  };
}

/** Whether anything about the colour had to be assumed, so that a person can be told. */
export function isColourTagged(tags: ColourTags): boolean {
  return tags.primaries !== null && tags.transfer !== null && tags.matrix !== null;
}

/** Whether the source is high dynamic range: perceptual quantiser or hybrid log-gamma (ITU-R BT.2100). */
export function isHighDynamicRange(video: VideoFacts): boolean {
  return isHighTransfer(video.colour);
}

function isHighTransfer({ transfer }: ColourTags): boolean {
  return transfer === 'smpte2084' || transfer === 'arib-std-b67';
}

const HIGH_RANGE = { primaries: 'bt2020', matrix: 'bt2020nc', transfer: 'smpte2084' };

/** What a picture that does not say how bright it gets is taken to be graded for, in cd/m² (ITU-R BT.2408, the reference display). */
const USUAL_PEAK = 1000;

/**
 * The brightest of a high dynamic range picture, in cd/m²: its content's where it says so, otherwise its mastering display's. Relative light
 * (hybrid log-gamma) has the reference display's.
 */
export function peakOf({ colour, light }: VideoFacts): number {
  const said = colour.transfer === 'smpte2084' ? light?.contentMost || light?.masteringMost : null;
  return said && said > REFERENCE_WHITE ? said : USUAL_PEAK;
}

/** White paper in a high dynamic range picture, in cd/m² (ITU-R BT.2408). */
export const REFERENCE_WHITE = 203;

function customColour(height: number): Colour {
  if (height > SD_MAX_HEIGHT) return { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709' };
  // 480 and 576 lines differ in primaries; both use the BT.601 matrix, which is what tints a picture.
  const primaries = height > 480 ? 'bt470bg' : 'smpte170m';
  return { primaries, transfer: 'smpte170m', matrix: 'smpte170m' };
}
