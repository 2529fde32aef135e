import type { ProgrammeView } from '../../contract/views.ts';
import type { EncodedSound } from '../../core/recipe/recipe.ts';
import {
  LUFS_RANGE,
  TRUE_PEAK_RANGE,
  USUAL_TRUE_PEAK,
  writeLevel,
  type SoundLevel,
} from '../../core/sound/loudness.ts';
import { GAIN_RANGE } from '../../core/sound/treatment.ts';
import { writeSigned } from '../../core/text.ts';
import { useAnalysis } from '../hooks/queries.ts';
import { Choices } from './Choices.tsx';
import { readDecimal, TypedField } from './TypedField.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly audio: EncodedSound;
  readonly change: (audio: EncodedSound) => void;
}

/** Where receivers want sound (the first two common practice, no source; the last EBU R 128). */
const USUAL: readonly { readonly lufs: number; readonly hint: string }[] = [
  { lufs: -14, hint: 'As open video hosts play it.' },
  { lufs: -16, hint: 'Talk, for telephones and headphones.' },
  { lufs: -23, hint: 'Broadcasting (EBU R 128).' },
];

/** How loud the sound is to be, with what the programme has beside it. */
export function LoudnessFields({ programme, audio, change }: Props) {
  const { data: analysis } = useAnalysis(programme.id);
  const own = analysis?.loudness;
  const { loudness } = audio;
  const set = (level: SoundLevel | null) => change({ ...audio, loudness: level, gainDb: 0 });
  return (
    <>
      <Choices
        label="How loud"
        value={loudness ? String(loudness.lufs) : 'as-is'}
        choices={[
          {
            value: 'as-is',
            label: 'As loud as it is',
            ...(own
              ? { hint: `${writeLevel(own.integratedLufs)} LUFS, peaks at ${writeLevel(own.truePeakDbtp)} dBTP.` }
              : {}),
          },
          ...USUAL.map(({ lufs, hint }) => ({ value: String(lufs), label: `${writeLevel(lufs, 0)} LUFS`, hint })),
        ]}
        onChange={(value) =>
          set(value === 'as-is' ? null : { truePeakDbtp: USUAL_TRUE_PEAK, ...loudness, lufs: Number(value) })
        }
      />
      {!loudness && (
        <TypedField
          label="Turned up, or down below zero"
          unit="dB"
          value={audio.gainDb}
          write={writeSigned}
          read={readDecimal(...GAIN_RANGE, 10, 'decibels')}
          onChange={(gainDb) => change({ ...audio, gainDb })}
          hint={`Peaks that would go over ${writeLevel(USUAL_TRUE_PEAK, 0)} dBTP are held down.`}
        />
      )}
      {loudness && (
        <>
          <TypedField
            label="Loudness"
            unit="LUFS"
            value={loudness.lufs}
            write={String}
            read={readDecimal(...LUFS_RANGE, 10, 'a level')}
            onChange={(lufs) => set({ ...loudness, lufs })}
            hint={own ? sayGain(loudness.lufs - own.integratedLufs) : 'It is listened to before it is encoded.'}
          />
          <TypedField
            label="True peak, at most"
            unit="dBTP"
            value={loudness.truePeakDbtp}
            write={String}
            read={readDecimal(...TRUE_PEAK_RANGE, 10, 'a level')}
            onChange={(truePeakDbtp) => set({ ...loudness, truePeakDbtp })}
            hint="Peaks that would go over it are held down."
          />
        </>
      )}
    </>
  );
}

function sayGain(db: number): string {
  if (Math.abs(db) < 0.1) return 'About as loud as it is.';
  return `Turned ${db > 0 ? 'up' : 'down'} by about ${Math.abs(db).toFixed(1)} dB.`;
}
