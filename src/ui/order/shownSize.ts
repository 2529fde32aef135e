import type { ProgrammeView } from '../../contract/views.ts';
import { displaySize, type FrameSize } from '../../core/geometry/frameSize.ts';
import { turnedAspect } from '../../core/geometry/framing.ts';
import { croppedSize, turnedSize } from '../../core/geometry/preparation.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';

/** The picture as it is shown before it comes into its frame, in square pixels. */
export function shownSize({ video, width, height }: ProgrammeView, { picture }: Recipe): FrameSize | null {
  if (!video) return null;
  const left = turnedSize(croppedSize({ width, height }, picture.crop), picture.rotate);
  return displaySize(left, turnedAspect(video.pixelAspect, picture.rotate));
}
