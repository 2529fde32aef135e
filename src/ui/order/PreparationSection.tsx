import type { ProgrammeView } from '../../contract/views.ts';
import { croppedSize, type Edges, type FieldOrder } from '../../core/geometry/preparation.ts';
import { encodedVideo, type Recipe } from '../../core/recipe/recipe.ts';
import { isHighDynamicRange } from '../../core/programme/colour.ts';
import { Choices } from './Choices.tsx';
import { Part } from './Part.tsx';
import { TypedField } from './TypedField.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
  readonly problem: string | undefined;
}

const FIELDS: readonly { value: FieldOrder | 'keep'; label: string; hint?: string }[] = [
  { value: 'keep', label: 'As it is' },
  { value: 'top-first', label: 'Deinterlaced, top field first', hint: 'HD, and tape of 625 lines' },
  { value: 'bottom-first', label: 'Deinterlaced, bottom field first', hint: 'DV' },
];

/** What is done to the picture before it is scaled. */
export function PreparationSection({ programme, recipe, change, problem }: Props) {
  const { picture } = recipe;
  if (!programme.video || !encodedVideo(recipe)) {
    return (
      <section>
        <h3 className="text-quiet text-sm">Picture</h3>
        <p>{recipe.video ? 'Copied as it is.' : 'No picture.'}</p>
      </section>
    );
  }
  const left = croppedSize(programme, picture.crop);
  const { num, den } = programme.video.pixelAspect;
  return (
    <section>
      <h3 className="text-quiet text-sm">Picture: fields</h3>
      <Choices
        label="Fields"
        value={picture.deinterlace ?? 'keep'}
        choices={FIELDS}
        onChange={(value) =>
          change({ ...recipe, picture: { ...picture, deinterlace: value === 'keep' ? null : value } })
        }
      />
      {(num !== den || picture.pixelAspect === 'source') && (
        <Part
          name="pixels"
          value={picture.pixelAspect}
          choices={[
            { value: 'square', label: 'Square', hint: 'Looks the same in every player' },
            { value: 'source', label: `As the master has them, ${num}:${den}`, hint: 'For editing and the archive' },
          ]}
          onChange={(pixelAspect) => change({ ...recipe, picture: { ...picture, pixelAspect } })}
        />
      )}
      {(isHighDynamicRange(programme.video) || picture.dynamicRange !== 'source') && (
        <Part
          name="dynamic range"
          value={picture.dynamicRange}
          choices={[
            { value: 'source', label: 'As the master has it', hint: 'For screens that show high dynamic range' },
            { value: 'standard', label: 'Standard', hint: 'Brought down to BT.709, as ordinary screens show it' },
          ]}
          onChange={(dynamicRange) => change({ ...recipe, picture: { ...picture, dynamicRange } })}
        />
      )}
      <div className="mt-2">
        <TypedField
          label="Picture: cut off at top, bottom, left, right"
          value={picture.crop}
          write={writeCrop}
          read={readCrop}
          onChange={(crop) => change({ ...recipe, picture: { ...picture, crop } })}
          hint={`In the master’s pixels, even; ${left.width} × ${left.height} are left.`}
        />
        {problem && <p className="text-wrong text-sm">{problem}</p>}
      </div>
    </section>
  );
}

function writeCrop(crop: Edges | null): string {
  return crop ? [crop.top, crop.bottom, crop.left, crop.right].join(', ') : '';
}

function readCrop(text: string): { value: Edges | null } | { fault: string } {
  if (text.trim() === '') return { value: null };
  const sides = text
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map(Number);
  const [top = 0, bottom = 0, left = 0, right = 0] = sides;
  if (sides.length > 4 || sides.some((side) => !Number.isInteger(side) || side < 0 || side % 2 !== 0)) {
    return { fault: 'Type up to four even numbers, such as 138, 138, 0, 0.' };
  }
  return { value: top + bottom + left + right === 0 ? null : { top, bottom, left, right } };
}
