import type { ProgrammeView } from '../../contract/views.ts';
import {
  MARK_PLACES,
  MARK_SIZES,
  LONGEST_MARK,
  USUAL_MARK,
  type MarkChoice,
  type MarkPlace,
} from '../../core/picture/mark.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { useMedia } from '../hooks/queries.ts';
import { Choices } from './Choices.tsx';
import { readWhole, TypedField } from './TypedField.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
  readonly problem: string | undefined;
}

const PLACES: Readonly<Record<MarkPlace, string>> = {
  'top-left': 'Above, at the left',
  top: 'Above',
  'top-right': 'Above, at the right',
  left: 'At the left',
  middle: 'In the middle',
  right: 'At the right',
  'bottom-left': 'Below, at the left',
  bottom: 'Below',
  'bottom-right': 'Below, at the right',
};

/** What a mark of words says until something is typed. */
const FIRST_WORDS = 'Preview';

/** What stands in every frame of the picture. */
export function MarkSection({ programme, recipe, change, problem }: Props) {
  const { mark } = recipe.picture;
  const set = (next: MarkChoice | null) => change({ ...recipe, picture: { ...recipe.picture, mark: next } });
  const kind = !mark ? 'none' : mark.text === null ? 'picture' : 'words';
  const starting = mark ?? USUAL_MARK;
  return (
    <section>
      <h3 className="text-quiet text-sm">Picture: a mark in every frame</h3>
      <Choices
        label="A mark"
        value={kind}
        choices={[
          { value: 'none', label: 'No mark' },
          { value: 'words', label: 'Words', hint: 'Whose it is, or which version' },
          { value: 'picture', label: 'A picture of yours', hint: 'Its transparency is kept' },
        ]}
        onChange={(value) => {
          if (value === kind) return;
          if (value === 'none') set(null);
          else
            set({ ...starting, text: value === 'words' ? FIRST_WORDS : null, file: value === 'picture' ? '' : null });
        }}
      />
      {mark && <MarkFields {...{ programme, mark, set, problem }} />}
    </section>
  );
}

interface FieldsProps {
  readonly programme: ProgrammeView;
  readonly mark: MarkChoice;
  readonly set: (mark: MarkChoice) => void;
  readonly problem: string | undefined;
}

function MarkFields({ programme, mark, set, problem }: FieldsProps) {
  const [least, most] = MARK_SIZES.map((share) => Math.round(share * 100)) as [number, number];
  return (
    <>
      {mark.text !== null ? (
        <TypedField
          label="Words of the mark"
          value={mark.text}
          write={(value) => value}
          read={readWords}
          onChange={(text) => set({ ...mark, text })}
        />
      ) : (
        <PictureFields {...{ programme, mark, set, problem }} />
      )}
      <TypedField
        label="Its height"
        unit="% of the picture’s"
        value={Math.round(mark.size * 100)}
        write={String}
        read={readWhole(least, most, 'a share')}
        onChange={(value) => set({ ...mark, size: value / 100 })}
      />
      <TypedField
        label="How much of it is seen"
        unit="%"
        value={Math.round(mark.opacity * 100)}
        write={String}
        read={readWhole(0, 100, 'a share')}
        onChange={(value) => set({ ...mark, opacity: value / 100 })}
        hint="Results are compared with the master without it."
      />
      <Choices<MarkPlace>
        label="Where it stands"
        value={mark.place}
        choices={MARK_PLACES.map((value) => ({ value, label: PLACES[value] }))}
        onChange={(place) => set({ ...mark, place })}
      />
    </>
  );
}

/** What browsers and the engine read as a picture. */
const PICTURE_ENDING = /\.(png|jpe?g|webp|gif|bmp|tiff?)$/i;

/** Pictures lie beside the master as a rule; any other in a media folder is typed. */
function PictureFields({ programme, mark, set, problem }: FieldsProps) {
  const { data } = useMedia(programme.path.slice(0, programme.path.lastIndexOf('/')));
  const pictures = (data?.entries ?? []).filter(({ kind, name }) => kind === 'file' && PICTURE_ENDING.test(name));
  return (
    <>
      {pictures.length > 0 && (
        <Choices
          label="Pictures beside the master"
          value={mark.file}
          choices={pictures.map(({ path, name }) => ({ value: path, label: name }))}
          onChange={(file) => set({ ...mark, file })}
        />
      )}
      <TypedField
        label="Picture of the mark"
        value={mark.file ?? ''}
        write={(value) => value}
        read={(text) => ({ value: text.trim() })}
        onChange={(file) => set({ ...mark, file })}
        hint={problem ?? 'The path of a picture in a media folder.'}
      />
    </>
  );
}

function readWords(text: string): { value: string } | { fault: string } {
  const words = text.trim();
  if (words === '') return { fault: 'Type what the mark says, or take none.' };
  return words.length > LONGEST_MARK ? { fault: `Type at most ${LONGEST_MARK} characters.` } : { value: words };
}
