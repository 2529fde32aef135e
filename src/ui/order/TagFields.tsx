import type { ProgrammeView } from '../../contract/views.ts';
import { CONTAINER } from '../../core/container/containers.ts';
import { LONGEST_TAG, TAGS, tagsIn, type Tag } from '../../core/container/tags.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { Choices } from './Choices.tsx';
import { TypedField } from './TypedField.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
}

const LABELS: Readonly<Record<Tag, string>> = {
  title: 'Title',
  artist: 'Artist',
  album: 'Album or series',
  genre: 'Genre',
  date: 'Date',
  copyright: 'Copyright',
  description: 'Description',
  comment: 'Comment',
};

/** What the file tells of itself: players show it, and so does everyone who looks into it. */
export function TagFields({ programme, recipe, change }: Props) {
  const { metadata } = recipe.file;
  const { name, holds } = CONTAINER[recipe.container];
  const set = (next: Recipe['file']['metadata']) => change({ ...recipe, file: { ...recipe.file, metadata: next } });
  const kept = tagsIn(programme.metadata);
  const typed = typeof metadata === 'object' ? metadata : null;
  const told = TAGS.filter((tag) => kept[tag] !== undefined && holds.tags.includes(tag));
  return (
    <section>
      <h3 className="text-quiet text-sm">File: what it tells of itself</h3>
      <Choices
        label="What it tells of itself"
        value={typed ? 'typed' : (metadata as string)}
        choices={[
          { value: 'strip', label: 'nothing', hint: 'No word of who made it, where or when' },
          {
            value: 'keep',
            label: 'what the master tells',
            hint:
              told.length > 0
                ? told.map((tag) => `${LABELS[tag]}: ${kept[tag]}`).join('; ')
                : 'Its title, artist, copyright and the like; this one tells none of them',
          },
          { value: 'typed', label: 'what is typed here' },
        ]}
        onChange={(value) => set(value === 'typed' ? (typed ?? kept) : (value as 'strip' | 'keep'))}
      />
      {typed &&
        TAGS.map((tag) => (
          <TypedField
            key={tag}
            label={LABELS[tag]}
            value={typed[tag] ?? ''}
            write={(value) => value}
            read={(text) =>
              text.length > LONGEST_TAG ? { fault: `Type at most ${LONGEST_TAG} characters.` } : { value: text }
            }
            onChange={(value) =>
              set(Object.fromEntries(Object.entries({ ...typed, [tag]: value }).filter(([, text]) => text !== '')))
            }
            {...(holds.tags.includes(tag) ? {} : { hint: `${name} has no place for it.` })}
          />
        ))}
    </section>
  );
}
