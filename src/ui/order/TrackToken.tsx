import type { AudioFacts } from '../../core/programme/facts.ts';
import { nameSourceCodec } from '../../core/programme/sourceCodecs.ts';
import { nameTracks } from '../../core/recipe/describeRecipe.ts';
import { isCopied, type CopiedSound, type EncodedSound } from '../../core/recipe/recipe.ts';
import { channelName } from '../programme/describeProgramme.ts';
import { Choices, type Choice } from './Choices.tsx';
import { Token } from './Token.tsx';

interface Props {
  readonly tracks: readonly AudioFacts[];
  readonly audio: EncodedSound | CopiedSound;
  readonly change: (audio: EncodedSound | CopiedSound) => void;
  readonly problem: string | undefined;
}

const JOINED: Choice<'apart' | 'joined' | 'mixed'> = {
  value: 'joined',
  label: 'Channels of one sound',
  hint: 'Two are left and right, six 5.1, eight 7.1.',
};

/** Which of several tracks are taken, and whether they become one. */
export function TrackToken({ tracks, audio, change, problem }: Props) {
  const toggle = (index: number) => {
    const kept = audio.tracks.includes(index)
      ? audio.tracks.filter((one) => one !== index)
      : [...audio.tracks, index].sort((one, other) => one - other);
    if (kept.length === 0) return;
    change(
      isCopied(audio)
        ? { ...audio, tracks: kept }
        : { ...audio, tracks: kept, joined: audio.joined && kept.length > 1 },
    );
  };
  return (
    <>
      {' of '}
      <Token label="Sound tracks" text={nameTracks(audio)} problem={problem}>
        {() => (
          <div className="flex flex-col gap-3">
            <div role="group" aria-label="Tracks" className="flex flex-col gap-1">
              {tracks.map((track, index) => (
                <label key={track.index} className="hover:bg-sunk flex items-baseline gap-2 rounded px-2 py-1">
                  <input type="checkbox" checked={audio.tracks.includes(index)} onChange={() => toggle(index)} />
                  <span>
                    {`Track ${index + 1}${track.title ? `, ${track.title}` : ''}`}
                    <span className="text-quiet block text-sm">{describeTrack(track)}</span>
                  </span>
                </label>
              ))}
            </div>
            {!isCopied(audio) && audio.tracks.length > 1 && (
              <Choices
                label="Several tracks"
                value={audio.joined ? 'joined' : audio.mixed ? 'mixed' : 'apart'}
                choices={[
                  { value: 'apart', label: 'Each by itself', hint: 'Players let the listener choose one.' },
                  ...(tracks.every(({ channels }) => channels === 1) ? [JOINED] : []),
                  { value: 'mixed', label: 'Mixed into one', hint: 'At full strength; what would clip is held down.' },
                ]}
                onChange={(how) => change({ ...audio, mixed: how === 'mixed', joined: how === 'joined' })}
              />
            )}
          </div>
        )}
      </Token>
    </>
  );
}

function describeTrack({ language, layout, channels, codec }: AudioFacts): string {
  return [language, layout ?? channelName(channels), nameSourceCodec(codec)].filter(Boolean).join(', ');
}
