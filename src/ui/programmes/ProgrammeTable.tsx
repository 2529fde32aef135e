import { TriangleAlert, Volume2 } from 'lucide-react';
import Link from 'next/link';
import type { ProgrammeSummary } from '../../contract/views.ts';
import { bytesPerHour } from '../../core/budget/projections.ts';
import { nameFrameRate } from '../../core/timing/frameRate.ts';
import { frameOfProgramme } from '../hooks/api.ts';
import { useWindowRows } from '../hooks/useWindowRows.ts';
import { Button } from '../kit/Button.tsx';
import { cutMiddle } from '../kit/MiddleCut.tsx';
import { formatBytes, formatLength, formatRate } from '../kit/format.ts';
import type { Choosing } from './useChoosing.ts';
import { useForgetting } from './useForgetting.ts';
import { nameSourceCodec } from '../../core/programme/sourceCodecs.ts';

const COLUMNS = ['Length', 'Frame', 'Rate', 'Codec', 'Size', 'Bit rate', 'Per hour'] as const;

/** Characters that fit into a row's three lines. */
const LONGEST_NAME = 48;

/** What a narrow window leaves out first; the programme's page has all of it. */
const HIDDEN_WHEN_NARROW = ['', '', 'max-md:hidden', 'max-md:hidden', '', 'max-lg:hidden', 'max-lg:hidden'] as const;

const ROW_HEIGHT = 81;

interface TableProps {
  readonly programmes: readonly ProgrammeSummary[];
  readonly choosing: Choosing;
}

/** The list; of a thousand programmes only the rows in sight are there. */
export function ProgrammeTable({ programmes: listed, choosing }: TableProps) {
  const forgetting = useForgetting(listed);
  const programmes = forgetting.rows;
  const keyOf = (index: number) => programmes[index]?.id ?? index;
  const { table, items, before, after } = useWindowRows(programmes.length, ROW_HEIGHT, keyOf);
  return (
    <table ref={table} className="w-full border-collapse" aria-rowcount={programmes.length + 1}>
      <thead>
        <tr className="border-rule text-quiet border-b text-left text-sm">
          <th className="w-8">
            <span className="sr-only">Choose</span>
          </th>
          <th className="py-1 font-normal" colSpan={2}>
            Name
          </th>
          {COLUMNS.map((column, index) => (
            <th key={column} className={`px-2 text-right font-normal ${HIDDEN_WHEN_NARROW[index]}`}>
              {column}
            </th>
          ))}
          <th>
            <span className="sr-only">Forget</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {before > 0 && <Gap height={before} />}
        {items.map(({ index, key }) => {
          const programme = programmes[index];
          return (
            programme &&
            (forgetting.isForgotten(programme.id) ? (
              <ForgottenRow key={key} programme={programme} onBack={() => forgetting.bringBack(programme)} />
            ) : (
              <ProgrammeRow
                key={key}
                programme={programme}
                position={index + 2}
                isChosen={choosing.chosen.has(programme.id)}
                onChoose={(isRange) => choosing.toggle(programme.id, isRange)}
                onForget={() => forgetting.forget(programme)}
              />
            ))
          );
        })}
        {after > 0 && <Gap height={after} />}
      </tbody>
    </table>
  );
}

function Gap({ height }: { readonly height: number }) {
  return (
    <tr aria-hidden="true">
      <td style={{ height }} colSpan={COLUMNS.length + 4} />
    </tr>
  );
}

/** In the place of what was forgotten: nothing below moves, and nothing lies under the pointer. */
function ForgottenRow({ programme, onBack }: { readonly programme: ProgrammeSummary; readonly onBack: () => void }) {
  return (
    <tr className="border-rule border-b" style={{ height: ROW_HEIGHT }} data-testid="forgotten-row">
      <td colSpan={COLUMNS.length + 4} className="text-quiet px-2">
        {programme.name} is forgotten.{' '}
        <button type="button" className="text-ink underline" onClick={onBack}>
          Bring it back
        </button>
      </td>
    </tr>
  );
}

interface RowProps {
  readonly programme: ProgrammeSummary;
  readonly position: number;
  readonly isChosen: boolean;
  readonly onChoose: (isRange: boolean) => void;
  readonly onForget: () => void;
}

function ProgrammeRow({ programme, position, isChosen, onChoose, onForget }: RowProps) {
  return (
    <tr className="border-rule hover:bg-sheet border-b" aria-rowindex={position} style={{ height: ROW_HEIGHT }}>
      <td className="pl-1">
        <input
          type="checkbox"
          aria-label={`Choose ${programme.name}`}
          checked={isChosen}
          onChange={(event) => onChoose(event.nativeEvent instanceof MouseEvent && event.nativeEvent.shiftKey)}
        />
      </td>
      <td className="w-32 py-1.5">
        <Thumbnail programme={programme} />
      </td>
      <td className="max-w-64 px-2">
        <Link
          href={`/programmes/${programme.id}`}
          className="block leading-tight font-semibold break-words underline-offset-4 hover:underline"
          title={programme.name}
        >
          <bdi>{cutMiddle(programme.name, LONGEST_NAME)}</bdi>
        </Link>
        <Standing programme={programme} />
      </td>
      {figuresOf(programme).map((figure, index) => (
        <td key={COLUMNS[index]} className={`figure px-2 text-right whitespace-nowrap ${HIDDEN_WHEN_NARROW[index]}`}>
          {figure}
        </td>
      ))}
      <td className="pl-2 text-right">
        <Button look="quiet" aria-label={`Forget ${programme.name}`} onClick={onForget}>
          Forget
        </Button>
      </td>
    </tr>
  );
}

/** Only what is out of the ordinary. */
function Standing({ programme }: { readonly programme: ProgrammeSummary }) {
  const words = standingOf(programme);
  if (!words) return null;
  return (
    <span className="text-wrong flex items-center gap-1 text-sm">
      <TriangleAlert aria-hidden="true" size={14} /> {words}
    </span>
  );
}

function standingOf({ state, master, problem }: ProgrammeSummary): string | null {
  if (state === 'failed') return problem?.message ?? 'cannot be read';
  if (state === 'looking') return 'being looked at';
  return { there: null, changed: 'the master has changed', missing: 'the master is missing' }[master];
}

function figuresOf(programme: ProgrammeSummary): string[] {
  const { video, audio, bytes, durationSeconds } = programme;
  const perHour = bytesPerHour(bytes, durationSeconds);
  return [
    formatLength(durationSeconds),
    video ? `${programme.width} × ${programme.height}` : 'sound only',
    video
      ? `${video.constantRate ? '' : '~'}${nameFrameRate(programme.frameRate)} fps`
      : `${(audio[0]?.sampleRate ?? 0) / 1000} kHz`,
    nameSourceCodec(video?.codec ?? audio[0]?.codec ?? ''),
    formatBytes(bytes),
    formatRate((bytes * 8) / durationSeconds),
    perHour === null ? '–' : formatBytes(perHour),
  ];
}

function Thumbnail({ programme }: { readonly programme: ProgrammeSummary }) {
  if (!programme.video || programme.master !== 'there') {
    return (
      <div className="bg-sunk text-quiet flex h-[68px] w-[120px] items-center justify-center">
        <Volume2 aria-hidden="true" />
      </div>
    );
  }
  return (
    <img
      src={frameOfProgramme(programme.id, programme.openingFrame, 240)}
      alt=""
      width={120}
      height={68}
      loading="lazy"
      className="h-[68px] w-[120px] bg-black object-contain"
    />
  );
}
