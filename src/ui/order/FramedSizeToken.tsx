import { COMMON_HEIGHTS, evenFrame, frameShape, type FrameSize } from '../../core/geometry/frameSize.ts';
import { atFrameSize, ownFrame, shownOf } from '../../core/geometry/framing.ts';
import type { Rational } from '../../core/timing/rational.ts';
import type { OrderPartProps } from './orderPart.ts';
import { PickToken } from './PickToken.tsx';
import { readSides, SIDES_FAULT } from './typedSides.ts';

/** Frames of a shape that was chosen are offered up to so many pixels on the shorter side, also where the picture has fewer. */
const USUAL_SIDE = 1080;

/** The size of a frame that the picture fills or stands in: as large as the picture has it, a common one, or a typed one. */
export function FramedSizeToken({
  programme,
  recipe,
  change,
  problemOf,
  size,
}: OrderPartProps & { readonly size: FrameSize }) {
  const { picture } = recipe;
  if (!programme.video) return null;
  const apply = (frame: FrameSize) => change({ ...recipe, picture: atFrameSize(picture, frame) });
  const shape = frameShape(size);
  const own = ownFrame(shownOf(programme, programme.video.pixelAspect, picture), shape, picture.pad !== null);
  const shorter = Math.min(own.width, own.height);
  const common = COMMON_HEIGHTS.filter((side) => side <= Math.max(shorter, USUAL_SIDE) && side !== shorter);
  const frames = [own, ...common.map((side) => withShorterSide(shape, side))];
  return (
    <PickToken
      label="Frame size"
      text={writeFrame(size)}
      problem={problemOf('picture.fit')}
      value={writeFrame(size)}
      choices={frames.map((frame, index) => ({
        value: writeFrame(frame),
        label: writeFrame(frame),
        ...hintOf(index === 0, frame, own),
      }))}
      onPick={(value) => apply(frames.find((frame) => writeFrame(frame) === value) ?? size)}
      typed={{
        label: 'Or exactly',
        value: size,
        write: writeFrame,
        read: readFrame,
        onChange: apply,
        hint: 'Such as 1080 × 1920. Its own shape is chosen by it as well.',
      }}
    />
  );
}

function hintOf(isOwn: boolean, frame: FrameSize, own: FrameSize): { readonly hint?: string } {
  if (isOwn) return { hint: 'As large as the picture is' };
  return frame.width > own.width ? { hint: 'Enlarged' } : {};
}

function withShorterSide({ num, den }: Rational, side: number): FrameSize {
  const scale = side / Math.min(num, den);
  return evenFrame(num * scale, den * scale);
}

function writeFrame({ width, height }: FrameSize): string {
  return `${width} × ${height}`;
}

function readFrame(text: string): { value: FrameSize } | { fault: string } {
  const { width, height } = readSides(text) ?? {};
  return width && height ? { value: { width, height } } : { fault: `${SIDES_FAULT} 1080 × 1920.` };
}
