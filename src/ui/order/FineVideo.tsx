import { nameFormat, type PixelFormat } from '../../core/picture/store.ts';
import { splitFormat } from '../../core/recipe/changeRecipe.ts';
import { formatOf, isRatedVideo, type EncodedVideo, type RatedVideo } from '../../core/recipe/recipe.ts';
import { flavourOf } from '../../core/video/codecs.ts';
import { TUNES, type Tune } from '../../core/video/fine.ts';
import { encoderChoices } from '../../core/video/hardware.ts';
import { FineKeyframes } from './FineKeyframes.tsx';
import { FineLabels } from './FineLabels.tsx';
import type { FineVideoProps } from './fineVideoProps.ts';
import { ListToken } from './ListToken.tsx';

/** What an expert may want otherwise, as one sentence of what the encoder takes. */
export function FineVideo({ video, change, problemOf }: FineVideoProps<EncodedVideo>) {
  return (
    <p className="leading-8">
      Stored in <FormatToken video={video} change={change} problemOf={problemOf} />
      {isRatedVideo(video) && <RatedSentence video={video} change={change} problemOf={problemOf} />}.
    </p>
  );
}

function FormatToken({ video, change, problemOf }: FineVideoProps<EncodedVideo>) {
  const formats = isRatedVideo(video)
    ? encoderChoices(video).formats
    : (flavourOf(video.codec, video.flavour)?.formats ?? []);
  const take = (format: PixelFormat) => change({ ...video, ...splitFormat(format) });
  return (
    <ListToken
      label="How pixels are stored"
      value={formatOf(video)}
      problem={problemOf('video.bitDepth')}
      choices={formats.map((value) => ({ value, label: nameFormat(value), ...hintOf(value) }))}
      onChange={take}
    />
  );
}

function hintOf(format: PixelFormat): { readonly hint?: string } {
  if (format === '420p8') return { hint: 'What every player takes.' };
  if (format === '420p8a') return { hint: 'Shown over what lies under it; at a quality only.' };
  return format === '420p10' ? { hint: 'Smoother gradients; many players refuse it.' } : {};
}

function RatedSentence({ video, change, problemOf }: FineVideoProps<RatedVideo>) {
  const { fine } = encoderChoices(video);
  const problem = (key: keyof RatedVideo) => problemOf(`video.${key}`);
  return (
    <>
      {Object.keys(fine.tunes).length > 0 && (
        <>
          , tuned for{' '}
          <ListToken
            label="Tuned for"
            value={video.tune ?? 'none'}
            problem={problem('tune')}
            choices={[
              { value: 'none', label: 'any picture' },
              ...TUNES.filter((tune) => tune in fine.tunes).map((tune) => ({
                value: tune,
                label: TUNE_NAMES[tune],
                hint: `(${fine.tunes[tune]})`,
              })),
            ]}
            onChange={(value) => change({ ...video, tune: TUNES.find((tune) => tune === value) ?? null })}
          />
        </>
      )}
      <FineKeyframes video={video} change={change} problemOf={problemOf} />
      <FineLabels video={video} change={change} problemOf={problemOf} />
    </>
  );
}

const TUNE_NAMES: Readonly<Record<Tune, string>> = {
  film: 'film',
  drawn: 'drawn pictures',
  grain: 'grain that is to stay',
  still: 'still pictures',
  text: 'text on a screen',
};
