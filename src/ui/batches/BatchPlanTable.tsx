import Link from 'next/link';
import type { BatchPlanRow } from '../../contract/batch.ts';
import { isRecipeFix } from '../../core/advice/applyFix.ts';
import { Button } from '../kit/Button.tsx';
import { formatBytes, formatWait } from '../kit/format.ts';
import { MiddleCut } from '../kit/MiddleCut.tsx';
import type { RowFix } from './fixRecipe.ts';

interface Props {
  readonly rows: readonly BatchPlanRow[];
  readonly isLeftOut: (row: BatchPlanRow) => boolean;
  readonly onLeave: (row: BatchPlanRow, isLeftOut: boolean) => void;
  readonly onFix: (row: BatchPlanRow, fix: RowFix) => void;
}

/** Every file that would be made, and what cannot or should not be with its reason and its fix. */
export function BatchPlanTable({ rows, isLeftOut, onLeave, onFix }: Props) {
  // What wants a decision comes first.
  const sorted = rows.toSorted((one, other) => rank(one) - rank(other));
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr className="border-rule text-quiet border-b text-left text-sm">
          <th className="w-16 py-1 font-normal">Make</th>
          <th className="font-normal">Programme</th>
          <th className="px-2 font-normal">As</th>
          <th className="px-2 text-right font-normal">Expected</th>
          <th className="px-2 text-right font-normal max-md:hidden">Work</th>
        </tr>
      </thead>
      <tbody>
        {sorted.map((row) => (
          <PlanRow
            key={`${row.programmeId} ${row.recipe.name}`}
            row={row}
            isLeftOut={isLeftOut(row)}
            onLeave={(isLeft) => onLeave(row, isLeft)}
            onFix={(fix) => onFix(row, fix)}
          />
        ))}
      </tbody>
    </table>
  );
}

function rank({ state, advisories }: BatchPlanRow): number {
  return state === 'cannot' ? 0 : advisories.length > 0 ? 1 : 2;
}

interface RowProps {
  readonly row: BatchPlanRow;
  readonly isLeftOut: boolean;
  readonly onLeave: (isLeftOut: boolean) => void;
  readonly onFix: (fix: RowFix) => void;
}

function PlanRow({ row, isLeftOut, onLeave, onFix }: RowProps) {
  const { state, reason, expected, workSeconds, advisories, bent } = row;
  const isMade = state === 'ready' && !isLeftOut;
  return (
    <tr
      className="border-rule border-b align-top"
      data-testid="planned-row"
      data-state={isLeftOut ? 'left-out' : state}
    >
      <td className="py-1.5">
        <input
          type="checkbox"
          aria-label={`Make ${row.recipe.name} of ${row.programmeName}`}
          checked={isMade}
          disabled={state === 'cannot'}
          onChange={() => onLeave(!isLeftOut)}
        />
      </td>
      <td className="max-w-64 py-1.5">
        <Link href={`/programmes/${row.programmeId}`} className="underline-offset-4 hover:underline">
          <MiddleCut text={row.programmeName} className="font-semibold" />
        </Link>
      </td>
      <td className="px-2 py-1.5">
        <span className="block">{row.recipe.name}</span>
        <span className="text-quiet block text-sm">{row.sentence}</span>
        {bent.length > 0 && <span className="text-quiet block text-sm">Bent to the brief: {bent.join(', ')}</span>}
        {reason && !isLeftOut && (
          <span className="text-wrong block">
            ✕ {reason.message}{' '}
            {reason.code === 'no-picture' && (
              <FixKey fix={{ kind: 'sound-only', label: 'Make its sound alone' }} onFix={onFix} />
            )}
          </span>
        )}
        {!isLeftOut &&
          advisories.map((advisory) => (
            <span key={advisory.code} className="block text-sm">
              <span aria-hidden="true">▲ </span>
              {advisory.message}{' '}
              {advisory.fix && isRecipeFix(advisory.fix) && <FixKey fix={advisory.fix} onFix={onFix} />}
            </span>
          ))}
        {isLeftOut && <span className="text-quiet block text-sm">Left out</span>}
      </td>
      <td className="figure px-2 py-1.5 text-right whitespace-nowrap">
        {!isMade ? '–' : expected ? formatBytes(expected.likely) : 'not measured'}
      </td>
      <td className="figure px-2 py-1.5 text-right whitespace-nowrap max-md:hidden">
        {!isMade ? '–' : workSeconds ? formatWait(workSeconds.likely) : 'unknown'}
      </td>
    </tr>
  );
}

function FixKey({ fix, onFix }: { readonly fix: RowFix; readonly onFix: (fix: RowFix) => void }) {
  return (
    <Button look="plain" className="ml-1 !px-2 !py-0 text-sm" onClick={() => onFix(fix)}>
      {fix.label}
    </Button>
  );
}
