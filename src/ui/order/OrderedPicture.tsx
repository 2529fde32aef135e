import { useState } from 'react';
import type { ProgrammeView } from '../../contract/views.ts';
import type { FrameSize } from '../../core/geometry/frameSize.ts';
import { encodedVideo, renditionSize, type Recipe } from '../../core/recipe/recipe.ts';
import { useSettled } from '../hooks/useSettled.ts';
import { useActKey } from '../hooks/useWorkKey.ts';
import { Button } from '../kit/Button.tsx';
import { FlippedPicture } from '../player/FlippedPicture.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly recipe: Recipe;
  /** Whether the order can be made as it stands. */
  readonly isPossible: boolean;
  /** At the playhead. */
  readonly frame: number;
}

/** Settings that are still being typed are not drawn one by one. */
const SETTLED_MS = 400;

/** The frame at the playhead as it goes into the encoder, by the order as it stands, once it is asked for. */
export function OrderedPicture(props: Props) {
  const { programme, recipe, isPossible } = props;
  const [isShown, setShown] = useState(false);
  useActKey('g', () => setShown((before) => !before));
  const size = renditionSize(programme, recipe);
  if (!encodedVideo(recipe) || !size || !isPossible) return null;
  if (isShown) return <DrawnPicture {...props} size={size} onClose={() => setShown(false)} />;
  return (
    <p className="mt-2">
      <Button look="quiet" hotkey="G" onClick={() => setShown(true)}>
        See this frame as it is ordered
      </Button>
    </p>
  );
}

interface DrawnProps extends Pick<Props, 'programme' | 'recipe' | 'frame'> {
  readonly size: FrameSize;
  readonly onClose: () => void;
}

function DrawnPicture({ programme, recipe, frame, size, onClose }: DrawnProps) {
  // A name makes no other picture.
  const settled = useSettled(JSON.stringify({ ...recipe, name: '' }), SETTLED_MS);
  const shown = useSettled(frame, SETTLED_MS);
  return (
    <FlippedPicture
      testId="ordered-picture"
      source={`/api/programmes/${programme.id}/ordered/${shown}.png?recipe=${encodeURIComponent(settled)}`}
      name="As it is ordered"
      programmeId={programme.id}
      frame={shown}
      caption={`As it is ordered, ${size.width} × ${size.height}, before it is encoded`}
      onClose={onClose}
    />
  );
}
