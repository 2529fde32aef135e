import { CONTAINER } from '../../core/container/containers.ts';
import { takesOwnSound } from '../../core/plan/planCopy.ts';
import { withSoundCodec } from '../../core/recipe/changeRecipe.ts';
import { encodedSound, type EncodedSound } from '../../core/recipe/recipe.ts';
import { SOUND, soundCodecsOf, type SoundCodec } from '../../core/sound/codecs.ts';
import { SOUND_DEPTHS, type Channels } from '../../core/sound/definition.ts';
import { formatBytes } from '../kit/format.ts';
import { Choices } from './Choices.tsx';
import type { OrderPartProps } from './orderPart.ts';
import { Token } from './Token.tsx';
import { TrackToken } from './TrackToken.tsx';
import { readRate, TypedField } from './TypedField.tsx';

/** Sound: its codec with channels and rate, or none. */
export function SoundTokens({ programme, recipe, change, problemOf }: OrderPartProps) {
  const audio = encodedSound(recipe);
  const missing = programme.audio.length > 0 ? undefined : 'This programme has no sound.';
  const definition = audio && SOUND[audio.codec];
  const choose = (value: SoundCodec | 'none' | 'copy') => {
    if (value === 'none') return change({ ...recipe, audio: null });
    change(value === 'copy' ? { ...recipe, audio: { codec: 'copy' } } : withSoundCodec(recipe, value));
  };
  const { name } = CONTAINER[recipe.container];
  const uncopied = takesOwnSound(recipe.container, programme) ? undefined : `It does not go into ${name} as it is.`;
  return (
    <>
      <Token
        isWide
        label="Sound"
        text={definition?.name ?? (recipe.audio ? 'the master’s own sound' : 'no sound')}
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
              {
                value: 'copy',
                label: 'Copied',
                hint: 'The master’s own sound, as it is.',
                missing: missing ?? uncopied,
              },
              { value: 'none', label: 'No sound', missing: recipe.video ? undefined : 'Then nothing would be left.' },
            ]}
            onChange={(value) => {
              choose(value);
              close();
            }}
          />
        )}
      </Token>
      {audio && definition && (
        <>
          {' '}
          <Token label="Channels" text={audio.channels} problem={problemOf('audio.channels')}>
            {(close) => (
              <Choices<Channels>
                label="Channels"
                value={audio.channels}
                choices={[
                  { value: 'stereo', label: 'Stereo' },
                  { value: 'mono', label: 'Mono', hint: 'Enough for speech, at half the rate.' },
                ]}
                onChange={(channels) => {
                  change({ ...recipe, audio: { ...audio, channels } });
                  close();
                }}
              />
            )}
          </Token>
          {programme.audio.length > 1 && (
            <TrackToken
              tracks={programme.audio}
              audio={audio}
              change={(next) => change({ ...recipe, audio: next })}
              problem={problemOf('audio.tracks')}
            />
          )}
          <SoundAmount audio={audio} change={(next) => change({ ...recipe, audio: next })} problemOf={problemOf} />
        </>
      )}
    </>
  );
}

interface AmountProps extends Pick<OrderPartProps, 'problemOf'> {
  readonly audio: EncodedSound;
  readonly change: (audio: EncodedSound) => void;
}

/** How much of the sound is kept: a rate, or every sample in so many bits. */
function SoundAmount({ audio, change, problemOf }: AmountProps) {
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
            value={audio.kbps ?? rate.usualKbps[audio.channels]}
            write={String}
            read={readRate(...rate.kbps[audio.channels])}
            onChange={(kbps) => change({ ...audio, kbps })}
            hint={`${rate.hint} ${formatBytes(((audio.kbps ?? 0) * 1000 * 3600) / 8)} an hour.`}
          />
        )}
      </Token>
    </>
  );
}
