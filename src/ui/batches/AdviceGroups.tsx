import { useState } from 'react';
import { Button } from '../kit/Button.tsx';
import { count } from '../kit/count.ts';
import type { AdviceGroup } from './adviceGroups.ts';

const SIGNS = { serious: '✕', caution: '▲', note: '·' } as const;

interface Props {
  readonly groups: readonly AdviceGroup[];
  /** The one whose rows alone are shown. */
  readonly shown: string | null;
  readonly onShow: (key: string | null) => void;
  readonly onMend: (group: AdviceGroup) => void;
  readonly onLeaveOut: (group: AdviceGroup) => void;
}

/** So many stand there at once. */
const FIRST = 5;

/** What is told of many files alike, seen to in one stroke. */
export function AdviceGroups({ groups, shown, onShow, onMend, onLeaveOut }: Props) {
  const [isLong, setLong] = useState(false);
  const listed = isLong ? groups : groups.slice(0, FIRST);
  if (groups.length === 0) return null;
  return (
    <section aria-labelledby="groups-heading" className="mb-4">
      <h2 id="groups-heading" className="mb-1 font-semibold">
        Before it is queued
      </h2>
      <ul>
        {listed.map((group) => {
          const { key, severity, name, programmes, message, rows, label } = group;
          const files = count(rows.length, 'file', 'files');
          return (
            <li
              key={key}
              className="border-rule flex flex-wrap items-baseline gap-x-3 gap-y-1 border-t py-1.5"
              data-testid="advice-group"
            >
              <span className="figure w-20 shrink-0 text-right">{files}</span>
              <span className={`min-w-64 flex-1 ${severity === 'serious' ? 'text-wrong' : ''}`}>
                <span aria-hidden="true">{SIGNS[severity]} </span>
                {name && <span className="text-ink font-semibold">{name}: </span>}
                {message}
                {programmes > 1 && (
                  <span className="text-quiet text-sm">
                    {' '}
                    {name ? `And so of ${count(programmes - 1, 'other', 'others')}.` : `In ${programmes} programmes.`}
                  </span>
                )}
              </span>
              <span className="flex gap-2">
                {label && (
                  <Button className="!py-0 text-sm" onClick={() => onMend(group)}>
                    {label}
                  </Button>
                )}
                <Button
                  look="quiet"
                  className="!py-0 text-sm"
                  aria-pressed={shown === key}
                  onClick={() => onShow(shown === key ? null : key)}
                >
                  {shown === key ? 'Show all' : 'Show them'}
                </Button>
                <Button look="quiet" className="!py-0 text-sm" onClick={() => onLeaveOut(group)}>
                  Leave them out
                </Button>
              </span>
            </li>
          );
        })}
      </ul>
      {groups.length > FIRST && (
        <Button look="quiet" className="!px-2 !py-0 text-sm" aria-expanded={isLong} onClick={() => setLong(!isLong)}>
          {isLong ? 'Show fewer' : `Show ${groups.length - FIRST} more`}
        </Button>
      )}
    </section>
  );
}
