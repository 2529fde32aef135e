import { withSoundCodec } from '../../core/recipe/changeRecipe.ts';
import { encodedSound } from '../../core/recipe/recipe.ts';
import { SOUND, soundCodecsOf, type SoundCodec } from '../../core/sound/codecs.ts';
import type { Channels } from '../../core/sound/definition.ts';
import { Choices } from './Choices.tsx';
import type { OrderPartProps } from './orderPart.ts';
import { Token } from './Token.tsx';
import { readRate, TypedField } from './TypedField.tsx';

/** Sound: its codec with channels and rate, or none. */
export function SoundTokens({ programme, recipe, change, problemOf }: OrderPartProps) {
  const audio = encodedSound(recipe);
  const missing = programme.audio.length > 0 ? undefined : 'This programme has no sound.';
  const definition = audio && SOUND[audio.codec];
  const choose = (value: SoundCodec | 'none') =>
    change(value === 'none' ? { ...recipe, audio: null } : withSoundCodec(recipe, value));
  return (
    <>
      <Token
        label="Sound"
        text={definition?.name ?? 'no sound'}
        problem={problemOf('audio') ?? problemOf('audio.codec')}
      >
        {(close) => (
          <Choices
            label="Sound"
            value={audio?.codec ?? 'none'}
            choices={[
              ...soundCodecsOf(recipe.container).map((codec) => ({
                value: codec,
                label: SOUND[codec].name,
                hint: SOUND[codec].hint,
                missing,
              })),
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
          {' at '}
          <Token label="Rate of the sound" text={`${audio.kbps} kb/s`} problem={problemOf('audio.kbps')}>
            {(close) => (
              <TypedField
                hasFocus
                onLeave={close}
                label="Rate"
                unit="kb/s"
                value={audio.kbps}
                write={String}
                read={readRate(...definition.kbps[audio.channels])}
                onChange={(kbps) => change({ ...recipe, audio: { ...audio, kbps } })}
                hint={definition.rateHint}
              />
            )}
          </Token>
        </>
      )}
    </>
  );
}
