import { useState, type ReactNode } from 'react';
import type { ProgrammeView } from '../../contract/views.ts';
import { encodedSound, encodedVideo, isRatedVideo, type Recipe } from '../../core/recipe/recipe.ts';
import { SOUND } from '../../core/sound/codecs.ts';
import { RATED } from '../../core/video/codecs.ts';
import { Disclosure } from '../kit/Disclosure.tsx';
import { Choices } from './Choices.tsx';
import { CorrectionSection } from './CorrectionSection.tsx';
import { EffortChoices } from './EffortChoices.tsx';
import { FadeFields } from './FadeFields.tsx';
import { FineVideo } from './FineVideo.tsx';
import { HighestField } from './HighestField.tsx';
import { LoudnessFields } from './LoudnessFields.tsx';
import { MarkSection } from './MarkSection.tsx';
import { PreparationSection } from './PreparationSection.tsx';
import { ShapeSection } from './ShapeSection.tsx';
import { TextSection } from './TextSection.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly problemOf: (field: string) => string | undefined;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
  /** What is chosen of the file itself, where it is one. */
  readonly children?: ReactNode;
}

/** What is rarely changed, in the order of the signal: picture, video, sound, file. */
export function FineControl({ programme, problemOf, recipe, change, children }: Props) {
  const [video, audio] = [encodedVideo(recipe), encodedSound(recipe)];
  const [isOpen, setOpen] = useState(false);
  return (
    <Disclosure name="Fine control" look="quiet" className="mt-2" onOpen={setOpen}>
      <div className="border-rule mt-2 grid max-w-5xl grid-cols-1 gap-6 border-l-2 pl-4 sm:grid-cols-2 lg:grid-cols-4">
        <PreparationSection programme={programme} recipe={recipe} change={change} problem={problemOf('picture.crop')} />
        {video && <ShapeSection programme={programme} recipe={recipe} change={change} />}
        {video && <CorrectionSection recipe={recipe} change={change} />}
        {video && (
          <MarkSection programme={programme} recipe={recipe} change={change} problem={problemOf('picture.mark')} />
        )}
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
        {audio && (
          <section>
            <h3 className="text-quiet text-sm">Sound: its ends and its step</h3>
            <FadeFields audio={audio} change={(next) => change({ ...recipe, audio: next })} />
          </section>
        )}
        <TextSection programme={programme} recipe={recipe} change={change} />
        {children}
      </div>
    </Disclosure>
  );
}
