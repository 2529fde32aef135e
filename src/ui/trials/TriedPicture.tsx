import { useState } from 'react';
import type { ProgrammeView } from '../../contract/views.ts';
import type { ScalePlace } from '../../core/scale/curve.ts';
import { nameCurve } from '../../core/scale/explain.ts';
import { useActKey } from '../hooks/useWorkKey.ts';
import { Button } from '../kit/Button.tsx';
import { formatBytes } from '../kit/format.ts';

interface Props {
  readonly programme: ProgrammeView;
  readonly place: ScalePlace;
  readonly frame: number;
  readonly onClose: () => void;
}

/** The frame at the playhead as a point of the scale makes it; flipped with the master's, since one judges by looking twice. */
export function TriedPicture({ programme, place, frame, onClose }: Props) {
  const [isMaster, setMaster] = useState(false);
  const [failed, setFailed] = useState<string | null>(null);
  useActKey('f', () => setMaster((before) => !before));
  const { codec, width, height, effort, quality } = place;
  const at = { codec, width: `${width}`, height: `${height}`, quality: `${quality}`, ...(effort ? { effort } : {}) };
  const question = new URLSearchParams(at);
  const tried = `/api/programmes/${programme.id}/tried/${frame}.png?${question.toString()}`;
  const master = `/api/programmes/${programme.id}/frames/${frame}.png`;
  return (
    <figure className="mt-3 max-w-[60rem]" data-testid="tried-picture">
      <figcaption className="flex flex-wrap items-center gap-x-3">
        <span>
          {isMaster ? 'The master' : `${nameCurve(place)}, quality ${quality}, ≈ ${formatBytes(place.bytes)}`}
        </span>
        <span className="figure text-quiet text-sm">frame {frame}</span>
        <Button look="quiet" hotkey="F" aria-pressed={isMaster} onClick={() => setMaster(!isMaster)}>
          Flip with the master
        </Button>
        <Button look="quiet" onClick={onClose}>
          Close
        </Button>
      </figcaption>
      <div className="bg-desk relative mt-1 p-3">
        {/* Both stay loaded, so that flipping shows nothing in between. */}
        {[
          { source: tried, isShown: !isMaster, name: 'As it was tried' },
          { source: master, isShown: isMaster, name: 'The master' },
        ].map(({ source, isShown, name }) => (
          <img
            key={source}
            src={source}
            alt={name}
            className={isShown ? 'mx-auto max-h-[70vh] w-auto' : 'hidden'}
            onLoad={() => source === tried && setFailed(null)}
            onError={() => setFailed(`${name} could not be shown.`)}
          />
        ))}
        {failed && <p role="alert">{failed}</p>}
      </div>
    </figure>
  );
}
