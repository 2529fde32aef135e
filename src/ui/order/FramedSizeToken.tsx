import { COMMON_HEIGHTS, knownShape, SQUARE, type FrameSize } from '../../core/geometry/frameSize.ts';
import { atFrameSize, largestFilled, smallestHolding } from '../../core/geometry/framing.ts';
import { rational, type Rational } from '../../core/timing/rational.ts';
import { Choices } from './Choices.tsx';
import { shownSize } from './shownSize.ts';
import type { OrderPartProps } from './orderPart.ts';
import { Token } from './Token.tsx';
import { TypedField } from './TypedField.tsx';

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
  const shown = shownSize(programme, recipe);
  if (!shown) return null;
  const apply = (frame: FrameSize) => change({ ...recipe, picture: atFrameSize(picture, frame) });
  const shape = knownShape(size, SQUARE) ?? rational(size.width, size.height);
  const own = picture.pad ? smallestHolding(shown, shape) : largestFilled(shown, shape);
  const shorter = Math.min(own.width, own.height);
  const common = COMMON_HEIGHTS.filter((side) => side <= Math.max(shorter, USUAL_SIDE) && side !== shorter);
  const frames = [own, ...common.map((side) => withShorterSide(shape, side))];
  return (
    <Token label="Frame size" text={writeFrame(size)} problem={problemOf('picture.fit')}>
      {(close) => (
        <>
          <Choices
            label="Frame size"
            value={writeFrame(size)}
            choices={frames.map((frame, index) => ({
              value: writeFrame(frame),
              label: writeFrame(frame),
              ...hintOf(index === 0, frame, own),
            }))}
            onChange={(value) => {
              const chosen = frames.find((frame) => writeFrame(frame) === value);
              if (chosen) apply(chosen);
              close();
            }}
          />
          <div className="border-rule mt-2 border-t pt-2">
            <TypedField
              label="Or exactly"
              value={size}
              write={writeFrame}
              read={readFrame}
              onChange={apply}
              onLeave={close}
              hint="Such as 1080 × 1920. Its own shape is chosen by it as well."
            />
          </div>
        </>
      )}
    </Token>
  );
}

function hintOf(isOwn: boolean, frame: FrameSize, own: FrameSize): { readonly hint?: string } {
  if (isOwn) return { hint: 'As large as the picture is' };
  return frame.width > own.width ? { hint: 'Enlarged' } : {};
}

function withShorterSide({ num, den }: Rational, side: number): FrameSize {
  const scale = side / Math.min(num, den);
  return { width: 2 * Math.round((num * scale) / 2), height: 2 * Math.round((den * scale) / 2) };
}

function writeFrame({ width, height }: FrameSize): string {
  return `${width} × ${height}`;
}

function readFrame(text: string): { value: FrameSize } | { fault: string } {
  const match = /^\s*(\d{2,4})\s*[x×*:]\s*(\d{2,4})\s*$/i.exec(text);
  const [width, height] = [Number(match?.[1]), Number(match?.[2])];
  if (!match || Math.min(width, height) < 32 || Math.max(width, height) > 8192) {
    return { fault: 'Type a width and a height from 32 to 8,192, such as 1080 × 1920.' };
  }
  return { value: { width, height } };
}
