import type { ProgrammeView } from '../../contract/views.ts';
import { captionTracks, hasTextCaptions } from '../../core/captions/captionTracks.ts';
import { CONTAINER } from '../../core/container/containers.ts';
import { faultInTemplate, NAME_FIELDS } from '../../core/naming/nameTemplate.ts';
import { encodedVideo, type CaptionChoice, type Recipe } from '../../core/recipe/recipe.ts';
import { Choices } from './Choices.tsx';
import { TagFields } from './TagFields.tsx';
import { readOptional, TypedField } from './TypedField.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
}

/** What is written in the file for people who find their way in it, read along or look it up, and what it is called. */
export function TextSection({ programme, recipe, change }: Props) {
  const { holds } = CONTAINER[recipe.container];
  const { file } = recipe;
  const isCaptioned = recipe.video !== null && hasTextCaptions(programme);
  const tracks = captionTracks(programme);
  return (
    <>
      {programme.chapters.length > 0 && holds.chapters && (
        <section>
          <h3 className="text-quiet text-sm">File: chapters</h3>
          <Choices
            label="Chapters"
            value={file.chapters ? 'kept' : 'left-out'}
            choices={[
              { value: 'kept', label: 'as the master’s' },
              { value: 'left-out', label: 'left out' },
            ]}
            onChange={(value) => change({ ...recipe, file: { ...file, chapters: value === 'kept' } })}
          />
        </section>
      )}
      {isCaptioned && (
        <section>
          <h3 className="text-quiet text-sm">File: captions</h3>
          <Choices<CaptionChoice>
            label="Captions"
            value={file.captions}
            choices={[
              { value: 'beside', label: 'beside it, as WebVTT' },
              {
                value: 'embed',
                label: 'inside it',
                missing: holds.captions ? undefined : `${CONTAINER[recipe.container].name} holds none.`,
              },
              {
                value: 'burn',
                label: 'drawn into the picture',
                hint: 'Seen by everyone, and for good',
                missing: encodedVideo(recipe) ? undefined : 'Not into a picture that is copied.',
              },
              { value: 'none', label: 'left out' },
            ]}
            onChange={(captions) => change({ ...recipe, file: { ...file, captions } })}
          />
          {file.captions === 'burn' && tracks.length > 1 && (
            <Choices
              label="Which are drawn in"
              value={String(file.captionTrack)}
              choices={tracks.map(({ label, isText }, number) => ({
                value: String(number),
                label,
                missing: isText ? undefined : 'Stored as pictures.',
              }))}
              onChange={(number) => change({ ...recipe, file: { ...file, captionTrack: Number(number) } })}
            />
          )}
        </section>
      )}
      <TagFields programme={programme} recipe={recipe} change={change} />
      <section>
        <h3 className="text-quiet text-sm">File: how it is named</h3>
        <TypedField
          label="Names of files"
          value={file.name}
          write={(value) => value ?? ''}
          read={readOptional(faultInTemplate)}
          onChange={(name) => change({ ...recipe, file: { ...file, name } })}
          hint={`Left empty, after programme, portion, frame size and codec. Or of your own: ${EXAMPLES}.`}
        />
      </section>
    </>
  );
}

const EXAMPLES = NAME_FIELDS.map((field) => `{${field}}`).join(' ');
