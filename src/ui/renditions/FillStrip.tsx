import clsx from 'clsx';
import type { FillView } from '../../contract/views.ts';
import { formatBytes } from '../kit/format.ts';

/** A group that got this much more or less stands at the end of its lane. */
const MOST = 0.6;

/**
 * Where the bytes of a filled size went: along the length each group of pictures, above the line what it got more than at one quality
 * for all, below what it gave.
 */
export function FillStrip({ groups }: { readonly groups: NonNullable<FillView['groups']> }) {
  const frames = groups.reduce((sum, group) => sum + group.frames, 0);
  const more = groups.filter(({ bytes, evenBytes }) => bytes > evenBytes).length;
  const less = groups.filter(({ bytes, evenBytes }) => bytes < evenBytes).length;
  const moved = groups.reduce((sum, { bytes, evenBytes }) => sum + Math.max(0, bytes - evenBytes), 0);
  const text = `${more} of ${groups.length} groups of pictures got more than at one quality for all, together ${formatBytes(moved)}; ${less} got less.`;
  return (
    <figure className="w-full max-w-[60rem]" data-testid="fill-strip">
      <figcaption className="text-sm">{text}</figcaption>
      <div className="bg-sunk mt-1 flex h-10 w-full rounded" role="img" aria-label={text}>
        {groups.map(({ frames: own, bytes, evenBytes, quality }, index) => {
          const change = evenBytes > 0 ? Math.max(-1, Math.min(1, (bytes / evenBytes - 1) / MOST)) : 0;
          return (
            <span
              key={index}
              title={`Group ${index + 1}: quality ${quality}, ${formatBytes(bytes)} instead of ${formatBytes(evenBytes)}`}
              className="border-paper relative h-full border-r"
              style={{ width: `${(100 * own) / frames}%` }}
            >
              <span
                className={clsx('absolute inset-x-0', change >= 0 ? 'bg-ember bottom-1/2' : 'bg-measured top-1/2')}
                style={{ height: `${Math.abs(change) * 50}%` }}
              />
            </span>
          );
        })}
      </div>
    </figure>
  );
}
