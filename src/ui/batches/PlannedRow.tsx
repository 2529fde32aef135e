import Link from 'next/link';
import { memo } from 'react';
import type { BatchPlanRow } from '../../contract/batch.ts';
import { changesOf } from '../../core/recipe/recipeChanges.ts';
import { joinWords } from '../../core/text.ts';
import { Button } from '../kit/Button.tsx';
import { formatBytes, formatLength, formatWait } from '../kit/format.ts';
import { MiddleCut } from '../kit/MiddleCut.tsx';
import { rowFixOf, SOUND_ALONE, type RowEdit, type RowFix } from './rowEdits.ts';
import { RowOrder } from './RowOrder.tsx';

/** What can be done to a row, told by its place among all. */
export interface RowActs {
  readonly leaveOut: (place: number, isLeftOut: boolean) => void;
  readonly edit: (place: number, edit: RowEdit) => void;
  readonly reset: (place: number) => void;
}

interface Props {
  readonly row: BatchPlanRow;
  readonly place: number;
  readonly atFirst: BatchPlanRow;
  readonly acts: RowActs;
  /** Whether its order line is open. */
  readonly isOpen: boolean;
  readonly onOpen: (place: number | null) => void;
}

/**
 * One file of a batch before it is queued: what it would be, what should be known of it, and what can be done about that.
 * While the list is scrolled it is drawn once.
 */
export const PlannedRow = memo(function PlannedRow({ row, place, atFirst, acts, isOpen, onOpen }: Props) {
  const { state, expected, workSeconds, programmeId, programmeName, recipe, isLeftOut } = row;
  const isMade = state === 'ready' && !isLeftOut;
  return (
    <>
      <tr
        className={`align-top ${isOpen ? '' : 'border-rule border-b'}`}
        data-testid="planned-row"
        data-state={isLeftOut ? 'left-out' : state}
      >
        <td className="py-1.5">
          <input
            type="checkbox"
            aria-label={`Make ${recipe.name} of ${programmeName}`}
            checked={isMade}
            disabled={state === 'cannot'}
            onChange={() => acts.leaveOut(place, !isLeftOut)}
          />
        </td>
        <td className="max-w-64 py-1.5">
          <Link href={`/programmes/${programmeId}`} className="underline-offset-4 hover:underline">
            <MiddleCut text={programmeName} className="font-semibold" />
          </Link>
        </td>
        <td className="px-2 py-1.5">
          <span className="block">
            {recipe.name}
            <Button
              look="quiet"
              className="ml-1 !px-2 !py-0 text-sm"
              aria-expanded={isOpen}
              aria-label={`${isOpen ? 'Done with' : 'Change'} ${recipe.name} of ${programmeName}`}
              onClick={() => onOpen(isOpen ? null : place)}
            >
              {isOpen ? 'Done with it' : 'Change it'}
            </Button>
          </span>
          <Standing {...{ row, place, atFirst, acts }} />
        </td>
        <td className="figure px-2 py-1.5 text-right whitespace-nowrap">
          {!isMade ? '–' : expected ? formatBytes(expected.likely) : 'not measured'}
        </td>
        <td className="figure px-2 py-1.5 text-right whitespace-nowrap max-md:hidden">
          {!isMade ? '–' : workSeconds ? formatWait(workSeconds.likely) : 'unknown'}
        </td>
      </tr>
      {isOpen && (
        <tr className="border-rule border-b">
          <td />
          <td colSpan={4}>
            <RowOrder
              programmeId={programmeId}
              recipe={recipe}
              portion={row.portion}
              change={(own) => acts.edit(place, { kind: 'own', recipe: own })}
            />
          </td>
        </tr>
      )}
    </>
  );
});

type StandingProps = Omit<Props, 'isOpen' | 'onOpen'>;

/** What it would be, and all that should be known of it. */
function Standing({ row, place, atFirst, acts }: StandingProps) {
  const { sentence, bent, reason, advisories, isLeftOut } = row;
  const mend = (edit: RowEdit) => acts.edit(place, edit);
  return (
    <>
      <span className="text-quiet block text-sm">{sentence}</span>
      {bent.length > 0 && <span className="text-quiet block text-sm">Bent to the brief: {bent.join(', ')}</span>}
      <OwnChanges {...{ row, atFirst }} onReset={() => acts.reset(place)} onWhole={() => mend({ kind: 'whole' })} />
      {reason && !isLeftOut && (
        <span className="text-wrong block">
          ✕ {reason.message} {reason.code === 'no-picture' && <FixKey fix={SOUND_ALONE} onFix={mend} />}
        </span>
      )}
      {!isLeftOut &&
        advisories.map((advisory) => {
          const fix = rowFixOf(advisory);
          return (
            <span key={advisory.code} className="block text-sm">
              <span aria-hidden="true">▲ </span>
              {advisory.message} {fix && <FixKey fix={fix} onFix={mend} />}
            </span>
          );
        })}
      {isLeftOut && <span className="text-quiet block text-sm">Left out</span>}
    </>
  );
}

interface OwnProps extends Pick<Props, 'row' | 'atFirst'> {
  readonly onReset: () => void;
  readonly onWhole: () => void;
}

/** What is otherwise in this file than in the others. */
function OwnChanges({ row, atFirst, onReset, onWhole }: OwnProps) {
  const isPart = row.portion !== null;
  const changes = [...changesOf(atFirst.recipe, row.recipe), ...(isPart && !atFirst.portion ? ['portion'] : [])];
  if (changes.length === 0) return null;
  return (
    <span className="text-measured block text-sm" data-testid="own-changes">
      ✓ Changed for this file: {joinWords(changes)}
      {isPart && ` (${formatLength(row.seconds)} of the programme)`}{' '}
      <Button look="quiet" className="!px-2 !py-0 text-sm" onClick={onReset}>
        As it was
      </Button>
      {isPart && changes.length > 1 && (
        <Button look="quiet" className="!px-2 !py-0 text-sm" onClick={onWhole}>
          All of the programme
        </Button>
      )}
    </span>
  );
}

function FixKey({ fix, onFix }: { readonly fix: RowFix; readonly onFix: (fix: RowFix) => void }) {
  return (
    <Button look="plain" className="ml-1 !px-2 !py-0 text-sm" onClick={() => onFix(fix)}>
      {fix.label}
    </Button>
  );
}
