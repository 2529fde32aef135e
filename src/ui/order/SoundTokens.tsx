import { AAC_KBPS_RANGE, type Channels } from '../../core/codec/tables.ts';
import { encodedSound } from '../../core/rate/recipe.ts';
import { Choices } from './Choices.tsx';
import type { OrderPartProps } from './orderPart.ts';
import { Token } from './Token.tsx';
import { readRate, TypedField } from './TypedField.tsx';

const STARTING = { codec: 'aac', kbps: 128, sampleRate: 48000 } as const;

/** Sound: AAC with its channels and rate, or none. */
export function SoundTokens({ programme, recipe, change, problemOf }: OrderPartProps) {
  const audio = encodedSound(recipe);
  const hasSound = programme.audio.length > 0;
  const choose = (value: Channels | 'none') =>
    change({ ...recipe, audio: value === 'none' ? null : { ...STARTING, ...audio, channels: value } });
  return (
    <>
      <Token label="Sound" text={audio ? `AAC ${audio.channels}` : 'no sound'} problem={problemOf('audio')}>
        {(close) => (
          <Choices
            label="Sound"
            value={audio?.channels ?? 'none'}
            choices={[
              { value: 'stereo', label: 'AAC stereo', missing: hasSound ? undefined : 'This programme has no sound.' },
              {
                value: 'mono',
                label: 'AAC mono',
                hint: 'Enough for speech, at half the rate.',
                missing: hasSound ? undefined : 'This programme has no sound.',
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
      {audio && (
        <>
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
                read={readRate(...AAC_KBPS_RANGE[audio.channels])}
                onChange={(kbps) => change({ ...recipe, audio: { ...audio, kbps } })}
                hint="128 to 320 is usual for stereo, half for mono speech."
              />
            )}
          </Token>
        </>
      )}
    </>
  );
}
