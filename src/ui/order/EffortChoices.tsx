import { withHardware } from '../../core/recipe/changeRecipe.ts';
import type { RatedVideo } from '../../core/recipe/recipe.ts';
import { RATED } from '../../core/video/codecs.ts';
import type { Effort } from '../../core/video/definition.ts';
import { useWorkingHardware } from '../hooks/queries.ts';
import { Choices } from './Choices.tsx';

const EFFORTS: readonly { value: Effort; label: string; hint: string }[] = [
  { value: 'fast', label: 'Fast', hint: 'Quick, and larger for the same picture.' },
  { value: 'balanced', label: 'Balanced', hint: 'The usual choice.' },
  { value: 'thorough', label: 'Thorough', hint: 'About twice the time, a little smaller.' },
];

/** How much is done for the picture: the efforts of the codec's own encoder, and hardware where it works. */
export function EffortChoices({
  video,
  change,
  isShown,
}: {
  readonly video: RatedVideo;
  readonly change: (video: RatedVideo) => void;
  readonly isShown: boolean;
}) {
  const working = useWorkingHardware(isShown);
  const { name, effortWords } = RATED[video.codec];
  const hardware = {
    value: 'hardware',
    label: 'In hardware',
    hint: 'Quickest, and largest for the same picture; holds an average rate only.',
    missing:
      working === null
        ? 'Trying what there is …'
        : working.includes(video.codec)
          ? undefined
          : `Nothing in this machine encodes ${name}.`,
  } as const;
  return (
    <Choices
      label="Effort"
      value={video.hardware ? 'hardware' : video.effort}
      choices={[...EFFORTS.map((one) => ({ ...one, hint: `${one.hint} (${effortWords[one.value]})` })), hardware]}
      onChange={(taken) =>
        change(taken === 'hardware' ? withHardware(video, true) : { ...withHardware(video, false), effort: taken })
      }
    />
  );
}
