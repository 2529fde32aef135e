import type { EncodedSound } from '../../core/recipe/recipe.ts';
import { MOST_DELAY_MS, MOST_FADE_SECONDS } from '../../core/sound/treatment.ts';
import { writeSigned } from '../../core/text.ts';
import { readDecimal, TypedField } from './TypedField.tsx';

interface Props {
  readonly audio: EncodedSound;
  readonly change: (audio: EncodedSound) => void;
}

/** How the sound begins and ends, and how it lies beside the picture. */
export function FadeFields({ audio, change }: Props) {
  const readFade = readDecimal(0, MOST_FADE_SECONDS, 10, 'seconds');
  return (
    <>
      <TypedField
        label="Fades in over"
        unit="s"
        value={audio.fadeInSeconds}
        write={String}
        read={readFade}
        onChange={(fadeInSeconds) => change({ ...audio, fadeInSeconds })}
      />
      <TypedField
        label="Fades out over"
        unit="s"
        value={audio.fadeOutSeconds}
        write={String}
        read={readFade}
        onChange={(fadeOutSeconds) => change({ ...audio, fadeOutSeconds })}
        hint="From and to silence, of the portion or the whole."
      />
      <TypedField
        label="Later, or earlier below zero"
        unit="ms"
        value={audio.delayMs}
        write={writeSigned}
        read={readDecimal(-MOST_DELAY_MS, MOST_DELAY_MS, 10, 'milliseconds')}
        onChange={(delayMs) => change({ ...audio, delayMs })}
        hint="Against the picture, where the two are out of step."
      />
    </>
  );
}
