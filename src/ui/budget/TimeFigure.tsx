import { foreseeSeconds, speedsOf } from '../../core/forecast/encodeTime.ts';
import { encodeKindOf } from '../../core/forecast/encodeWork.ts';
import type { EncodePlan } from '../../core/plan/encodePlan.ts';
import { useSpeeds } from '../hooks/queries.ts';
import { useNow } from '../hooks/useNow.ts';
import { formatWait } from '../kit/format.ts';
import { Figure } from './Figure.tsx';

/** How long the encode should take on this machine, and when it would be done if it began now. */
export function TimeFigure({ programmeId, plan }: { readonly programmeId: string; readonly plan: EncodePlan }) {
  const { data } = useSpeeds();
  const now = useNow();
  if (!encodeKindOf(plan)) return null;
  const foreseen = data && foreseeSeconds(plan, speedsOf(programmeId, data));
  if (!foreseen) return <Figure name="Takes" value="unknown" detail="one finished rendition tells" testId="takes" />;
  const done = new Date(now + foreseen.likely * 1000).toLocaleTimeString('en', HOUR);
  return (
    <Figure
      name="Takes about"
      value={formatWait(foreseen.likely)}
      detail={`done by ${done}, begun now`}
      testId="takes"
    />
  );
}

const HOUR = { hour: '2-digit', minute: '2-digit', hour12: false } as const;
