import type { ProgrammeView } from '../../contract/views.ts';
import type { ScalePlace } from '../../core/scale/curve.ts';
import { nameCurve } from '../../core/scale/explain.ts';
import { formatBytes } from '../kit/format.ts';
import { FlippedPicture } from '../player/FlippedPicture.tsx';

interface Props {
  readonly programme: ProgrammeView;
  readonly place: ScalePlace;
  readonly frame: number;
  readonly onClose: () => void;
}

/** The frame at the playhead as a point of the scale makes it. */
export function TriedPicture({ programme, place, frame, onClose }: Props) {
  const { codec, width, height, effort, quality } = place;
  const at = { codec, width: `${width}`, height: `${height}`, quality: `${quality}`, ...(effort ? { effort } : {}) };
  const question = new URLSearchParams(at);
  return (
    <FlippedPicture
      testId="tried-picture"
      source={`/api/programmes/${programme.id}/tried/${frame}.png?${question.toString()}`}
      name="As it was tried"
      programmeId={programme.id}
      caption={`${nameCurve(place)}, quality ${quality}, ≈ ${formatBytes(place.bytes)}`}
      {...{ frame, onClose }}
    />
  );
}
