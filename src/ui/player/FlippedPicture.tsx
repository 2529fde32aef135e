import { useState, type ReactNode } from 'react';
import { useActKey } from '../hooks/useWorkKey.ts';
import { Button } from '../kit/Button.tsx';

interface Props {
  readonly testId: string;
  /** Address of the picture, and what it is called when it cannot be shown. */
  readonly source: string;
  readonly name: string;
  readonly programmeId: string;
  /** Of the programme. */
  readonly frame: number;
  /** What the picture is. */
  readonly caption: ReactNode;
  readonly onClose: () => void;
}

/** A frame as something makes it, flipped with the master's: one judges by looking twice. */
export function FlippedPicture({ testId, source, name, programmeId, frame, caption, onClose }: Props) {
  const [isMaster, setMaster] = useState(false);
  const [failed, setFailed] = useState<string | null>(null);
  useActKey('f', () => setMaster((before) => !before));
  return (
    <figure className="mt-3 max-w-[60rem]" data-testid={testId}>
      <figcaption className="flex flex-wrap items-center gap-x-3">
        <span>{isMaster ? 'The master' : caption}</span>
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
          { address: source, isShown: !isMaster, called: name },
          { address: `/api/programmes/${programmeId}/frames/${frame}.png`, isShown: isMaster, called: 'The master' },
        ].map(({ address, isShown, called }) => (
          <img
            key={called}
            src={address}
            alt={called}
            className={isShown ? 'mx-auto max-h-[70vh] w-auto' : 'hidden'}
            onLoad={() => address === source && setFailed(null)}
            onError={() => setFailed(`${called} could not be shown.`)}
          />
        ))}
        {failed && <p role="alert">{failed}</p>}
      </div>
    </figure>
  );
}
