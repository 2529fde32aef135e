import { SOUND, SOUND_CODECS } from '../../core/sound/codecs.ts';
import { joinWords } from '../../core/text.ts';
import { VIDEO, VIDEO_CODECS, type VideoCodec } from '../../core/video/codecs.ts';
import { withVideoCodec } from '../../core/recipe/changeRecipe.ts';
import { copyContainer } from '../../core/plan/planCopy.ts';
import {
  copyingRecipe,
  encodedSound,
  encodedVideo,
  isCopied,
  STARTING_RECIPE,
  type Recipe,
} from '../../core/recipe/recipe.ts';
import { useSystem } from '../hooks/queries.ts';
import { Choices } from './Choices.tsx';
import type { OrderPartProps } from './orderPart.ts';
import { Token } from './Token.tsx';

/** What the picture is encoded in, or that it is copied or left out. */
export function CodecToken({ programme, recipe, change, problemOf }: OrderPartProps) {
  const { data: system } = useSystem();
  const missing = (codec: VideoCodec) =>
    system && !system.engine.encoders.includes(codec) ? 'Its encoder is not installed here.' : undefined;
  const withoutPicture = programme.video ? undefined : 'This programme has no picture.';
  const hasSound = programme.audio.length > 0;
  const container = copyContainer(programme);
  const choose = (value: VideoCodec | 'copy' | 'none') => {
    if (value === 'copy') return container ? change(copyingRecipe(programme, recipe, container)) : undefined;
    const sound = encodedSound(recipe) ?? (isCopied(recipe.video) && hasSound ? STARTING_RECIPE.audio : null);
    if (value === 'none') return change({ ...recipe, video: null, audio: sound ?? STARTING_RECIPE.audio });
    change(withVideoCodec({ ...recipe, audio: sound }, value));
  };
  return (
    <Token label="Codec of the picture" text={nameOf(recipe)} problem={problemOf('video') ?? problemOf('video.codec')}>
      {(close) => (
        <Choices
          label="Codec"
          value={recipe.video?.codec ?? 'none'}
          choices={[
            ...VIDEO_CODECS.map((codec) => ({
              value: codec,
              label: VIDEO[codec].name,
              hint: VIDEO[codec].hint,
              missing: withoutPicture ?? missing(codec),
            })),
            {
              value: 'copy',
              label: 'Copied',
              hint: 'The master’s own streams; nothing is encoded again.',
              missing: withoutPicture ?? (container ? undefined : ONLY_THESE),
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

/** Together in one container, which is found by itself. */
const ONLY_THESE = `Only ${joinWords(
  VIDEO_CODECS.map((codec) => VIDEO[codec].name),
  'or',
)} with ${joinWords(
  SOUND_CODECS.map((codec) => SOUND[codec].name),
  'or',
)} is copied.`;

function nameOf(recipe: Recipe): string {
  if (isCopied(recipe.video)) return 'the master’s own streams';
  const video = encodedVideo(recipe);
  return video ? VIDEO[video.codec].name : 'sound only';
}
