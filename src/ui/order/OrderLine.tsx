import type { ProgrammeView } from '../../contract/views.ts';
import { CODEC_NAMES, USUAL_QUALITY, type VideoCodec } from '../../core/codec/tables.ts';
import type { PlanProblem } from '../../core/rate/planProblem.ts';
import { canCopy } from '../../core/rate/planCopy.ts';
import {
  copyingRecipe,
  encodedSound,
  encodedVideo,
  isCopied,
  renditionSize,
  STARTING_RECIPE,
  type RateChoice,
  type Recipe,
} from '../../core/rate/recipe.ts';
import { nameFrameRate } from '../../core/timing/frameRate.ts';
import { useSystem } from '../hooks/queries.ts';
import { Choices } from './Choices.tsx';
import { FrameSizeToken } from './FrameSizeToken.tsx';
import type { OrderPartProps } from './orderPart.ts';
import { RateTokens } from './RateTokens.tsx';
import { SoundTokens } from './SoundTokens.tsx';
import { Token } from './Token.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly recipe: Recipe;
  readonly change: (recipe: Recipe) => void;
  readonly problems: readonly PlanProblem[];
}

/** A rendition as one sentence; each underlined value is a control that opens in place. */
export function OrderLine({ programme, recipe, change, problems }: Props) {
  const problemOf = (field: string) => problems.find((problem) => problem.field === field)?.message;
  const part = { programme, recipe, change, problemOf };
  const size = renditionSize(programme, recipe.picture);
  const { crop, deinterlace } = recipe.picture;
  return (
    <p className="max-w-[60rem] text-xl leading-9" data-testid="order-line">
      An MP4 {encodedVideo(recipe) ? 'in ' : 'of '}
      <CodecToken {...part} />
      {encodedVideo(recipe) && size && (
        <>
          {deinterlace && ', deinterlaced'}
          {crop && ', cropped'}, at <FrameSizeToken {...part} size={size} /> and the source’s{' '}
          {programme.video?.constantRate === false && 'varying rate around '}
          <span className="figure">{nameFrameRate(programme.frameRate)}</span> fps, <RateTokens {...part} />
        </>
      )}
      {isCopied(recipe.video) ? (
        ', copied as they are'
      ) : (
        <>
          , with <SoundTokens {...part} />
        </>
      )}
      .
    </p>
  );
}

function CodecToken({ programme, recipe, change, problemOf }: OrderPartProps) {
  const { data: system } = useSystem();
  const missing = (codec: 'h264' | 'hevc') =>
    system && !system.engine.encoders.includes(codec) ? 'Its encoder is not installed here.' : undefined;
  const withoutPicture = programme.video ? undefined : 'This programme has no picture.';
  const hasSound = programme.audio.length > 0;
  const choose = (value: 'h264' | 'hevc' | 'copy' | 'none') => {
    const wasCopied = isCopied(recipe.video);
    const sound = encodedSound(recipe) ?? (wasCopied && hasSound ? STARTING_RECIPE.audio : null);
    if (value === 'copy') return change(copyingRecipe(programme, recipe));
    if (value === 'none') return change({ ...recipe, video: null, audio: sound ?? STARTING_RECIPE.audio });
    const { rate, effort } = encodedVideo(recipe) ?? STARTING_RECIPE.video;
    change({ ...recipe, video: { codec: value, rate: asUsual(rate, value), effort }, audio: sound });
  };
  return (
    <Token label="Codec of the picture" text={nameOf(recipe)} problem={problemOf('video') ?? problemOf('video.codec')}>
      {(close) => (
        <Choices
          label="Codec"
          value={recipe.video?.codec ?? 'none'}
          choices={[
            { value: 'h264', label: 'H.264', hint: 'Plays everywhere.', missing: withoutPicture ?? missing('h264') },
            {
              value: 'hevc',
              label: 'HEVC',
              hint: 'Smaller for the same picture; many browsers do not play it.',
              missing: withoutPicture ?? missing('hevc'),
            },
            {
              value: 'copy',
              label: 'Copied',
              hint: 'The master’s own streams; nothing is encoded again.',
              missing: withoutPicture ?? (canCopy(programme) ? undefined : 'Only H.264 or HEVC with AAC is copied.'),
            },
            {
              value: 'none',
              label: 'Sound only',
              missing: programme.audio.length === 0 ? 'This programme has no sound.' : undefined,
            },
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

/** The usual quality of one codec becomes the usual of the other; what was chosen stays as it was chosen. */
function asUsual(rate: RateChoice, codec: VideoCodec): RateChoice {
  const isUsual = rate.mode === 'quality' && Object.values(USUAL_QUALITY).includes(rate.value);
  return isUsual ? { ...rate, value: USUAL_QUALITY[codec] } : rate;
}

function nameOf(recipe: Recipe): string {
  if (isCopied(recipe.video)) return 'the master’s own streams';
  const video = encodedVideo(recipe);
  return video ? CODEC_NAMES[video.codec] : 'sound only';
}
