import type { ProgrammeView } from '../../contract/views.ts';
import { CONTAINER } from '../../core/container/containers.ts';
import { takesOwnSound } from '../../core/plan/planCopy.ts';
import { soundLayout } from '../../core/plan/planSounds.ts';
import { withSoundCodec } from '../../core/recipe/changeRecipe.ts';
import { nameChannels } from '../../core/recipe/describeRecipe.ts';
import { COPIED_SOUND, encodedSound, isOneSound, type EncodedSound, type Recipe } from '../../core/recipe/recipe.ts';
import { SOUND, soundCodecsOf, type SoundCodec } from '../../core/sound/codecs.ts';
import {
  kbpsRange,
  layoutOf,
  SOUND_DEPTHS,
  usualKbps,
  type Channels,
  type Layout,
} from '../../core/sound/definition.ts';
import { nameLevel } from '../../core/sound/loudness.ts';
import { sayTreatment } from '../../core/sound/treatment.ts';
import { joinWords } from '../../core/text.ts';
import { formatBytes } from '../kit/format.ts';
import { channelName } from '../programme/describeProgramme.ts';
import { Choices, type Choice } from './Choices.tsx';
import { LoudnessFields } from './LoudnessFields.tsx';
import type { OrderPartProps } from './orderPart.ts';
import { Token } from './Token.tsx';
import { TrackToken } from './TrackToken.tsx';
import { readRate, TypedField } from './TypedField.tsx';

/** Sound: its codec with channels and rate, or none. */
export function SoundTokens({ programme, recipe, change, problemOf }: OrderPartProps) {
  const audio = encodedSound(recipe);
  const withAudio = (next: Recipe['audio']) => change({ ...recipe, audio: next });
  const tracks = audio?.tracks.flatMap((index) => programme.audio[index] ?? []) ?? [];
  const layout = (audio && soundLayout(audio, isOneSound(audio) ? tracks : tracks.slice(0, 1))) ?? 'stereo';
  return (
    <>
      <SoundCodecToken programme={programme} recipe={recipe} change={change} problemOf={problemOf} />
      {audio && (
        <>
          {' '}
          <ChannelsToken programme={programme} audio={audio} change={withAudio} problem={problemOf('audio.channels')} />
        </>
      )}
      {recipe.audio && programme.audio.length > 1 && (
        <TrackToken
          tracks={programme.audio}
          audio={recipe.audio}
          change={withAudio}
          problem={problemOf('audio.tracks')}
        />
      )}
      {audio && <SoundAmount audio={audio} layout={layout} change={withAudio} problemOf={problemOf} />}
      {audio?.loudness && (
        <>
          , levelled to{' '}
          <Token label="Loudness" text={`${nameLevel(audio.loudness.lufs)} LUFS`} problem={problemOf('audio.loudness')}>
            {() => <LoudnessFields programme={programme} audio={audio} change={withAudio} />}
          </Token>
        </>
      )}
      {audio && sayTreatment(audio)}
    </>
  );
}

/** Which codec, copied, or none. */
function SoundCodecToken({ programme, recipe, change, problemOf }: OrderPartProps) {
  const audio = encodedSound(recipe);
  const missing = programme.audio.length > 0 ? undefined : 'This programme has no sound.';
  const choose = (value: SoundCodec | 'none' | 'copy') => {
    if (value === 'none') return change({ ...recipe, audio: null });
    change(value === 'copy' ? { ...recipe, audio: COPIED_SOUND } : withSoundCodec(recipe, value));
  };
  const { name } = CONTAINER[recipe.container];
  const uncopied = takesOwnSound(recipe.container, programme) ? undefined : `It does not go into ${name} as it is.`;
  return (
    <Token
      isWide
      label="Sound"
      text={audio ? SOUND[audio.codec].name : recipe.audio ? 'the master’s own sound' : 'no sound'}
      problem={problemOf('audio') ?? problemOf('audio.codec')}
    >
      {(close) => (
        <Choices
          label="Sound"
          value={recipe.audio?.codec ?? 'none'}
          choices={[
            ...soundCodecsOf(recipe.container).map((codec) => ({
              value: codec,
              label: SOUND[codec].name,
              hint: SOUND[codec].hint,
              missing,
            })),
            { value: 'copy', label: 'Copied', hint: 'The master’s own sound, as it is.', missing: missing ?? uncopied },
            { value: 'none', label: 'No sound', missing: recipe.video ? undefined : 'Then nothing would be left.' },
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

interface ChannelsProps {
  readonly programme: ProgrammeView;
  readonly audio: EncodedSound;
  readonly change: (audio: EncodedSound) => void;
  readonly problem: string | undefined;
}

/** Mono, stereo, or what the tracks have. */
function ChannelsToken({ programme, audio, change, problem }: ChannelsProps) {
  const tracks = audio.tracks.flatMap((index) => programme.audio[index] ?? []);
  const joined = audio.joined ? layoutOf(tracks.length) : null;
  const layouts = joined ? [joined] : tracks.map((track) => track.layout ?? channelName(track.channels));
  const own = joinWords(Array.from(new Set(layouts)));
  const choices: Choice<Channels>[] = [
    { value: 'stereo', label: 'Stereo' },
    { value: 'mono', label: 'Mono', hint: 'Enough for speech, at half the rate.' },
    {
      value: 'source',
      label: 'As the source',
      hint: `Here ${own}. The rate is each track’s, whatever it has.`,
      missing: tracks.length > 0 ? undefined : 'This programme has no sound.',
    },
  ];
  return (
    <Token label="Channels" text={nameChannels(audio)} problem={problem}>
      {(close) => (
        <Choices<Channels>
          label="Channels"
          value={audio.channels}
          choices={choices}
          onChange={(channels) => {
            change({ ...audio, channels });
            close();
          }}
        />
      )}
    </Token>
  );
}

interface AmountProps extends Pick<OrderPartProps, 'problemOf'> {
  readonly audio: EncodedSound;
  /** That the first of its tracks comes out in. */
  readonly layout: Layout;
  readonly change: (audio: EncodedSound) => void;
}

/** How much of the sound is kept: a rate, or every sample in so many bits. */
function SoundAmount({ audio, layout, change, problemOf }: AmountProps) {
  const { rate } = SOUND[audio.codec];
  if (rate.kind === 'whole') {
    return (
      <>
        {' in '}
        <Token label="Bits a sample" text={`${audio.bitDepth} bits`} problem={problemOf('audio.bitDepth')}>
          {(close) => (
            <>
              <Choices
                label="Bits a sample"
                value={String(audio.bitDepth)}
                choices={SOUND_DEPTHS.map((bits) => ({ value: String(bits), label: `${bits} bits` }))}
                onChange={(bits) => {
                  change({ ...audio, bitDepth: SOUND_DEPTHS.find((one) => String(one) === bits) ?? null });
                  close();
                }}
              />
              <p className="text-quiet text-sm">{rate.depthHint}</p>
            </>
          )}
        </Token>
      </>
    );
  }
  return (
    <>
      {' at '}
      <Token label="Rate of the sound" text={`${audio.kbps} kb/s`} problem={problemOf('audio.kbps')}>
        {(close) => (
          <TypedField
            hasFocus
            onLeave={close}
            label="Rate"
            unit="kb/s"
            value={audio.kbps ?? usualKbps(rate, layout)}
            write={String}
            read={readRate(...kbpsRange(rate, layout))}
            onChange={(kbps) => change({ ...audio, kbps })}
            hint={`${rate.hint} ${formatBytes(((audio.kbps ?? 0) * 1000 * 3600) / 8)} an hour.`}
          />
        )}
      </Token>
    </>
  );
}
