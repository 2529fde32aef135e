import type { AudioFacts } from '../../core/programme/facts.ts';
import { nameSourceCodec } from '../../core/programme/sourceCodecs.ts';
import type { EncodedSound } from '../../core/recipe/recipe.ts';
import { Choices } from './Choices.tsx';
import { Token } from './Token.tsx';

interface Props {
  readonly tracks: readonly AudioFacts[];
  readonly audio: EncodedSound;
  readonly change: (audio: EncodedSound) => void;
  readonly problem: string | undefined;
}

/** Which of several tracks is taken. */
export function TrackToken({ tracks, audio, change, problem }: Props) {
  const [taken = 0] = audio.tracks;
  return (
    <>
      {' of '}
      <Token label="Sound track" text={`track ${taken + 1}`} problem={problem}>
        {(close) => (
          <Choices
            label="Sound track"
            value={String(taken)}
            choices={tracks.map((track, index) => ({
              value: String(index),
              label: `Track ${index + 1}${track.title ? `, ${track.title}` : ''}`,
              hint: [track.language, track.layout ?? `${track.channels} channels`, nameSourceCodec(track.codec)]
                .filter(Boolean)
                .join(', '),
            }))}
            onChange={(index) => {
              change({ ...audio, tracks: [Number(index)] });
              close();
            }}
          />
        )}
      </Token>
    </>
  );
}
