import type { ProgrammeView } from '../../contract/views.ts';
import {
  evenFrame,
  frameShape,
  knownShape,
  nameShape,
  SHAPES,
  SQUARE,
  type FrameSize,
} from '../../core/geometry/frameSize.ts';
import { framedBy, frameOf, ownFrame, shownOf } from '../../core/geometry/framing.ts';
import { BLUR, FLIPS, TURNS, type Flip } from '../../core/geometry/preparation.ts';
import { renditionSize, type Recipe } from '../../core/recipe/recipe.ts';
import type { Rational } from '../../core/timing/rational.ts';
import { Choices } from './Choices.tsx';
import { Part } from './Part.tsx';
import { TypedField } from './TypedField.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
}

const nameOf = (shape: Rational) => `${shape.num}:${shape.den}`;

/** Into which shape the picture is brought, and how; turned and mirrored. */
export function ShapeSection({ programme, recipe, change }: Props) {
  const { picture } = recipe;
  const apply = (next: Partial<Recipe['picture']>) => change({ ...recipe, picture: { ...picture, ...next } });
  const frame = frameOf(picture);
  if (!programme.video) return null;
  const shown = shownOf(programme, programme.video.pixelAspect, picture);
  const bring = (shape: Rational, beside: string | null) =>
    apply(framedIn(picture, shown, shape, beside, renditionSize(programme, recipe)));
  const shape = frame && knownShape(frame, SQUARE);
  return (
    <section className="-mt-2">
      <Part
        name="shape"
        value={frame ? (shape ? nameOf(shape) : null) : 'own'}
        choices={[
          { value: 'own', label: `Its own, ${nameShape(shown, SQUARE)}` },
          ...SHAPES.map((one) => ({ value: nameOf(one), label: nameOf(one) })),
        ]}
        onChange={(value) => {
          const wanted = SHAPES.find((one) => nameOf(one) === value);
          if (wanted) bring(wanted, picture.pad?.with ?? null);
          else apply(framedBy(picture, {}));
        }}
      />
      {frame && (
        <div className="mt-2">
          <Choices
            label="How it comes into its shape"
            value={picture.pad ? (picture.pad.with === BLUR ? 'blur' : 'colour') : 'cut'}
            choices={[
              { value: 'cut', label: 'Cut off', hint: 'From the middle outwards' },
              { value: 'colour', label: 'Whole, a colour beside it' },
              { value: 'blur', label: 'Whole, out of focus beside it' },
            ]}
            onChange={(how) => bring(frameShape(frame), how === 'cut' ? null : how === 'blur' ? BLUR : '#000000')}
          />
          {picture.pad && picture.pad.with !== BLUR && (
            <TypedField
              label="Colour beside it"
              value={picture.pad.with}
              write={(colour) => colour}
              read={readColour}
              onChange={(colour) => picture.pad && apply({ pad: { ...picture.pad, with: colour } })}
              hint="Such as #000000 for black."
            />
          )}
        </div>
      )}
      <Part
        name="turned clockwise"
        value={String(picture.rotate)}
        choices={TURNS.map((turn) => ({ value: String(turn), label: turn === 0 ? 'Not' : `By ${turn}°` }))}
        onChange={(value) => apply({ rotate: TURNS.find((turn) => String(turn) === value) ?? 0 })}
      />
      <Part<Flip | 'none'>
        name="mirrored"
        value={picture.flip ?? 'none'}
        choices={[
          { value: 'none', label: 'Not' },
          ...FLIPS.map((flip) => ({
            value: flip,
            label: flip === 'horizontal' ? 'Left and right exchanged' : 'Top and bottom exchanged',
          })),
        ]}
        onChange={(value) => apply({ flip: value === 'none' ? null : value })}
      />
    </section>
  );
}

/** As large as the picture has it, and no longer on its longer side than the order is now. */
function framedIn(
  picture: Recipe['picture'],
  shown: FrameSize,
  shape: Rational,
  beside: string | null,
  now: FrameSize | null,
): Recipe['picture'] {
  const own = ownFrame(shown, shape, beside !== null);
  const longest = Math.max(now?.width ?? Infinity, now?.height ?? Infinity);
  const scale = Math.min(1, longest / Math.max(own.width, own.height));
  const frame = evenFrame(own.width * scale, own.height * scale);
  return framedBy(picture, beside === null ? { fill: frame } : { pad: { ...frame, with: beside } });
}

function readColour(text: string): { value: string } | { fault: string } {
  const match = /^\s*#?([0-9a-f]{6})\s*$/i.exec(text);
  return match ? { value: `#${match[1]!.toLowerCase()}` } : { fault: 'Type six digits, such as #1a2b3c.' };
}
