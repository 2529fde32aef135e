import { copiedPictureContainer } from '../../core/plan/planCopy.ts';
import { withFittingSound, withoutPicture, withVideoCodec } from '../../core/recipe/changeRecipe.ts';
import { copyingPicture, encodedVideo, isCopied, STARTING_RECIPE, type Recipe } from '../../core/recipe/recipe.ts';
import { storeWhole } from '../../core/recipe/suitRecipe.ts';
import { nameCodec } from '../../core/recipe/describeRecipe.ts';
import { joinWords } from '../../core/text.ts';
import { VIDEO, VIDEO_CODECS, type VideoCodec } from '../../core/video/codecs.ts';
import { useSystem } from '../hooks/queries.ts';
import { Choices } from './Choices.tsx';
import type { OrderPartProps } from './orderPart.ts';
import { Token } from './Token.tsx';

/** What the picture is encoded in, or that it is copied or left out. */
export function CodecToken({ programme, recipe, change, problemOf }: OrderPartProps) {
  const { data: system } = useSystem();
  const missing = (codec: VideoCodec) =>
    system && !system.engine.encoders.includes(codec) ? 'Its encoder is not installed here.' : undefined;
  const noPicture = programme.video ? undefined : 'This programme has no picture.';
  const hasSound = programme.audio.length > 0;
  const container = copiedPictureContainer(programme, recipe.container);
  const choose = (value: VideoCodec | 'copy' | 'none') => {
    if (value === 'none') return change(withoutPicture({ ...recipe, audio: recipe.audio ?? STARTING_RECIPE.audio }));
    if (value !== 'copy') return change(storeWhole(withVideoCodec(recipe, value), programme));
    if (container) change(withFittingSound(copyingPicture(recipe, container)));
  };
  return (
    <Token
      isWide
      label="Codec of the picture"
      text={nameOf(recipe)}
      problem={problemOf('video') ?? problemOf('video.codec') ?? problemOf('video.hardware')}
    >
      {(close) => (
        <Choices
          label="Codec"
          value={recipe.video?.codec ?? 'none'}
          choices={[
            ...VIDEO_CODECS.map((codec) => ({
              value: codec,
              label: VIDEO[codec].name,
              hint: VIDEO[codec].hint,
              missing: noPicture ?? missing(codec),
            })),
            {
              value: 'copy',
              label: 'Copied',
              hint: 'The master’s own picture; nothing is lost, and it takes no time.',
              missing: noPicture ?? (container ? undefined : ONLY_THESE),
            },
            { value: 'none', label: 'Sound only', missing: hasSound ? undefined : 'This programme has no sound.' },
          ]}
          onChange={(value) => {
            choose(value);
            close();
          }}
        />
      )}
    </Token>
  );
}

/** One of them may be found in some container. */
const ONLY_THESE = `Only ${joinWords(
  VIDEO_CODECS.map((codec) => VIDEO[codec].name),
  'or',
)} is copied.`;

function nameOf(recipe: Recipe): string {
  if (isCopied(recipe.video)) return 'the master’s own picture';
  const video = encodedVideo(recipe);
  return video ? nameCodec(video) : 'sound only';
}
