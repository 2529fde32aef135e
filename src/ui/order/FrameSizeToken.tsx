import { COMMON_HEIGHTS, type Fit, type FrameSize } from '../../core/geometry/frameSize.ts';
import { frameOf } from '../../core/geometry/framing.ts';
import { fillsSize, renditionSize } from '../../core/recipe/recipe.ts';
import type { OrderPartProps } from './orderPart.ts';
import { FramedSizeToken } from './FramedSizeToken.tsx';
import { PickToken } from './PickToken.tsx';
import { readSides, SIDES_FAULT } from './typedSides.ts';

/** Frame size: the source's own, a common smaller one, or a typed box to fit in; of a shape that was chosen, one of that shape. */
export function FrameSizeToken({
  programme,
  recipe,
  change,
  problemOf,
  size,
}: OrderPartProps & { readonly size: FrameSize }) {
  if (!programme.video) return null;
  if (frameOf(recipe.picture)) {
    return <FramedSizeToken {...{ programme, recipe, change, problemOf, size }} />;
  }
  const fitted = (fit: Fit | null) =>
    renditionSize(programme, { ...recipe, picture: { ...recipe.picture, fit } }) ?? size;
  const own = fitted(null);
  const smaller = COMMON_HEIGHTS.filter((height) => height < own.height);
  const { fit } = recipe.picture;
  const apply = (fit: Fit | null) => change({ ...recipe, picture: { ...recipe.picture, fit } });
  const choices = [
    { value: 'own', label: `${own.width} × ${own.height}`, hint: 'The source’s own' },
    ...smaller.map((height) => ({
      value: String(height),
      label: `${fitted({ height }).width} × ${fitted({ height }).height}`,
    })),
  ];
  const chosen = [null, ...smaller].find((height) => sameSize(fitted(height === null ? null : { height }), size));
  return (
    <PickToken
      label="Frame size"
      text={`${size.width} × ${size.height}${fit?.orSmaller ? ' or smaller' : ''}`}
      problem={problemOf('picture.fit')}
      value={chosen === undefined ? null : chosen === null ? 'own' : String(chosen)}
      choices={choices}
      onPick={(value) => apply(value === 'own' ? null : { height: Number(value) })}
      typed={{
        label: 'Or fit inside',
        value: fit,
        write: writeFit,
        read: readFit,
        onChange: apply,
        hint: 'Such as 854 × 480, or × 480 for the height alone. The shape is kept, both sides come out even.',
      }}
    >
      {fillsSize(recipe) && (
        <label className="mt-2 flex max-w-72 items-baseline gap-2 text-sm">
          <input
            type="checkbox"
            checked={fit?.orSmaller === true}
            onChange={(event) => apply(event.target.checked ? { ...(fit ?? own), orSmaller: true } : closed(fit))}
          />
          <span>
            Or smaller, whichever looks best at the size to fill
            <span className="text-quiet block">Measured on excerpts, before it is encoded.</span>
          </span>
        </label>
      )}
    </PickToken>
  );
}

function closed(fit: Fit | null): Fit | null {
  return fit && { ...fit, orSmaller: undefined };
}

function writeFit(fit: Fit | null): string {
  if (!fit) return '';
  return fit.width === undefined ? `× ${fit.height}` : `${fit.width} × ${fit.height ?? ''}`.trim();
}

function readFit(text: string): { value: Fit | null } | { fault: string } {
  if (text.trim() === '') return { value: null };
  const sides = readSides(text);
  return sides ? { value: sides } : { fault: `${SIDES_FAULT} 854 × 480.` };
}

function sameSize(a: FrameSize, b: FrameSize): boolean {
  return a.width === b.width && a.height === b.height;
}
