import { useState } from 'react';
import type { ProgrammeView } from '../../contract/views.ts';
import { faultInName } from '../../core/naming/outputName.ts';
import { encodedSound, encodedVideo, isRatedVideo, type Recipe } from '../../core/recipe/recipe.ts';
import { SOUND } from '../../core/sound/codecs.ts';
import { RATED } from '../../core/video/codecs.ts';
import { Disclosure } from '../kit/Disclosure.tsx';
import { Choices } from './Choices.tsx';
import { EffortChoices } from './EffortChoices.tsx';
import { FineVideo } from './FineVideo.tsx';
import { HighestField } from './HighestField.tsx';
import { LoudnessFields } from './LoudnessFields.tsx';
import { PreparationSection } from './PreparationSection.tsx';
import { TypedField } from './TypedField.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly problemOf: (field: string) => string | undefined;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
  readonly name: string | null;
  readonly onName: (name: string | null) => void;
  readonly keepFailed: boolean;
  readonly onKeepFailed: (keep: boolean) => void;
}

/** What is rarely changed, in the order of the signal: picture, video, sound, file. */
export function FineControl({ programme, problemOf, recipe, change, name, onName, keepFailed, onKeepFailed }: Props) {
  const [video, audio] = [encodedVideo(recipe), encodedSound(recipe)];
  const [isOpen, setOpen] = useState(false);
  return (
    <Disclosure name="Fine control" look="quiet" className="mt-2" onOpen={setOpen}>
      <div className="border-rule mt-2 grid max-w-5xl grid-cols-1 gap-6 border-l-2 pl-4 sm:grid-cols-2 lg:grid-cols-4">
        <PreparationSection programme={programme} recipe={recipe} change={change} problem={problemOf('picture.crop')} />
        <section>
          <h3 className="text-quiet text-sm">Video: effort of the encoder</h3>
          {video && isRatedVideo(video) ? (
            <EffortChoices video={video} change={(next) => change({ ...recipe, video: next })} isShown={isOpen} />
          ) : (
            <p>{video ? 'Nothing to choose.' : recipe.video ? 'Copied as it is.' : 'No picture.'}</p>
          )}
        </section>
        {video && isRatedVideo(video) && video.rate.mode === 'quality' && RATED[video.codec].bufferFault === '' && (
          <section>
            <h3 className="text-quiet text-sm">Video: held down where it is hard</h3>
            <HighestField rate={video.rate} apply={(rate) => change({ ...recipe, video: { ...video, rate } })} />
          </section>
        )}
        {video && (
          <section className="sm:col-span-2">
            <h3 className="text-quiet text-sm">Video: in detail</h3>
            <FineVideo video={video} change={(next) => change({ ...recipe, video: next })} problemOf={problemOf} />
          </section>
        )}
        <section>
          <h3 className="text-quiet text-sm">Sound: sample rate</h3>
          {audio ? (
            <Choices
              label="Sample rate"
              value={String(audio.sampleRate)}
              choices={SOUND[audio.codec].sampleRates.map((rate) => ({
                value: String(rate),
                label: `${rate / 1000} kHz`,
              }))}
              onChange={(rate) => change({ ...recipe, audio: { ...audio, sampleRate: Number(rate) } })}
            />
          ) : (
            <p>{recipe.audio ? 'Copied as it is.' : 'No sound.'}</p>
          )}
        </section>
        {audio && (
          <section>
            <h3 className="text-quiet text-sm">Sound: how loud</h3>
            <LoudnessFields programme={programme} audio={audio} change={(next) => change({ ...recipe, audio: next })} />
          </section>
        )}
        <FileSection {...{ name, onName, keepFailed, onKeepFailed }} />
      </div>
    </Disclosure>
  );
}

/** What the file is called, and whether it stays where a check fails. */
function FileSection({
  name,
  onName,
  keepFailed,
  onKeepFailed,
}: Pick<Props, 'name' | 'onName' | 'keepFailed' | 'onKeepFailed'>) {
  return (
    <section>
      <TypedField
        label="File: its name"
        value={name}
        write={(value) => value ?? ''}
        read={(text) => readName(text)}
        onChange={onName}
        hint="Left empty, it is named after the programme, frame size and codec."
      />
      <label className="flex items-start gap-2">
        <input
          type="checkbox"
          className="mt-1 accent-(--ember)"
          checked={keepFailed}
          onChange={(event) => onKeepFailed(event.target.checked)}
        />
        Keep the file even when a check fails, marked as not verified
      </label>
    </section>
  );
}

function readName(text: string): { value: string | null } | { fault: string } {
  if (text === '') return { value: null };
  const fault = faultInName(text);
  return fault ? { fault } : { value: text };
}
