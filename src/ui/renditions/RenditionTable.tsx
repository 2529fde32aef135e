import { Eye, Download, ListChecks } from 'lucide-react';
import Link from 'next/link';
import { Fragment, useState } from 'react';
import type { ProgrammeView, RenditionSummary } from '../../contract/views.ts';
import type { Portion } from '../../core/programme/facts.ts';
import { positionsOf, type Positions } from '../../core/programme/positions.ts';
import { ssimToDecibels } from '../../core/quality/frameQuality.ts';
import { shareOfMaster } from '../../core/programme/shareOf.ts';
import { useClock } from '../hooks/useClock.ts';
import { fileOfRendition } from '../hooks/api.ts';
import { Button } from '../kit/Button.tsx';
import { Hint } from '../kit/Hint.tsx';
import { MiddleCut } from '../kit/MiddleCut.tsx';
import { formatBytes, formatExactBytes, formatRate, formatRatio, formatWait } from '../kit/format.ts';
import { RenditionDetails } from './RenditionDetails.tsx';
import { RenditionProgress } from './RenditionProgress.tsx';

const COLUMNS = ['Size', 'Ratio', 'Rate', 'Frame', 'Took'] as const;

/** The master in the first row, its renditions below, in the same columns. */
export function RenditionTable({
  programme,
  renditions,
}: {
  readonly programme: ProgrammeView;
  readonly renditions: readonly RenditionSummary[];
}) {
  const positions = positionsOf(programme, useClock(programme));
  return (
    <div className="relative overflow-x-auto">
      <table className="w-full border-collapse" data-testid="renditions">
        <thead className="text-quiet text-sm">
          <tr>
            <th rowSpan={2} className="border-rule border-b text-left align-bottom font-normal">
              What
            </th>
            {COLUMNS.map((column) => (
              <th key={column} rowSpan={2} className="border-rule border-b px-2 text-right align-bottom font-normal">
                {column}
              </th>
            ))}
            <th colSpan={2} className="px-2 text-right font-normal">
              SSIM in dB, mean and lowest
            </th>
            <th colSpan={2} className="px-2 text-right font-normal">
              PSNR in dB, mean and lowest
            </th>
            <th rowSpan={2} className="border-rule border-b">
              <span className="sr-only">Actions</span>
            </th>
          </tr>
          <tr className="border-rule border-b">
            {['all', 'luma', 'all', 'luma'].map((planes, index) => (
              <th key={index} className="px-2 text-right font-normal">
                {planes}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          <tr className="border-rule border-b">
            <th scope="row" className="py-1.5 text-left font-semibold">
              Master
            </th>
            <Cells
              values={[
                formatBytes(programme.bytes),
                '1',
                formatRate((programme.bytes * 8) / programme.durationSeconds),
                programme.video ? `${programme.width} × ${programme.height}` : '–',
                '',
                '',
                '',
                '',
                '',
              ]}
            />
            <td />
          </tr>
          {renditions.map((rendition) => (
            <RenditionRow key={rendition.id} programme={programme} positions={positions} rendition={rendition} />
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface RowProps {
  readonly programme: ProgrammeView;
  readonly positions: Positions;
  readonly rendition: RenditionSummary;
}

function RenditionRow({ programme, positions, rendition }: RowProps) {
  const [isOpen, setOpen] = useState(false);
  const { outline, bytes, quality, state } = rendition;
  const { seconds, width, height } = outline;
  const isActive = ['queued', 'running', 'checking'].includes(state);
  const took = rendition.encodeSeconds === null ? '' : formatWait(rendition.encodeSeconds);
  return (
    <Fragment>
      <tr className="border-rule border-b align-top" data-testid="rendition" data-state={state}>
        <th scope="row" className="max-w-64 py-1.5 text-left font-normal">
          <MiddleCut text={rendition.name} className="font-semibold" />
          <span className="text-quiet block text-sm">{rendition.sentence}</span>
          {rendition.portion && (
            <span className="text-quiet block text-sm">
              {rendition.portionName ?? 'Portion'}:{' '}
              <span className="figure">{portionText(positions, rendition.portion)}</span>
            </span>
          )}
        </th>
        {isActive ? (
          <td colSpan={COLUMNS.length + 4} className="px-2 py-1.5">
            <RenditionProgress rendition={rendition} />
          </td>
        ) : (
          <Cells
            values={[
              bytes === null
                ? '–'
                : `${formatBytes(bytes)}${rendition.fillOutcome === 'saturated' ? '\ncap did not bind' : ''}`,
              bytes === null ? '–' : formatRatio(shareOfMaster(programme, seconds), bytes),
              bytes === null ? '–' : formatRate((bytes * 8) / seconds),
              width ? `${width} × ${height}` : '–',
              took,
              ...qualityFigures(quality),
            ]}
            titles={[bytes === null ? '' : formatExactBytes(bytes)]}
          />
        )}
        <td className="py-1 pl-2 text-right whitespace-nowrap">
          <FileLinks rendition={rendition} />
          {!isActive && (
            <Hint text="What was checked">
              <Button
                look="quiet"
                className="!p-1.5"
                aria-expanded={isOpen}
                aria-label={`Checks of ${rendition.name}`}
                onClick={() => setOpen(!isOpen)}
              >
                <ListChecks aria-hidden="true" size={18} />
              </Button>
            </Hint>
          )}
        </td>
      </tr>
      {(isOpen || state === 'failed') && (
        <tr className="border-rule bg-sheet border-b">
          <td colSpan={COLUMNS.length + 6} className="px-3 py-2">
            <RenditionDetails id={rendition.id} />
          </td>
        </tr>
      )}
    </Fragment>
  );
}

/** PSNR as it is written where nothing differs. */
const IDENTICAL_DB = 100;

function portionText({ name }: Positions, { inFrame, outFrame }: Portion): string {
  return [inFrame, outFrame].map(name).join(' to ');
}

function FileLinks({ rendition }: { readonly rendition: RenditionSummary }) {
  const { quality } = rendition;
  return (
    <>
      {quality && rendition.hasFile && (
        <Hint text="Compare on the viewing desk">
          <Link
            href={`/desk/${rendition.id}`}
            aria-label={`Look at ${rendition.name}`}
            className="text-quiet hover:bg-sunk hover:text-ink inline-flex rounded p-1.5"
          >
            <Eye aria-hidden="true" size={18} />
          </Link>
        </Hint>
      )}
      {rendition.hasFile && (
        <Hint text="Download the file">
          <a
            href={`${fileOfRendition(rendition.id)}?download`}
            aria-label={`Download ${rendition.name}`}
            className="text-quiet hover:bg-sunk hover:text-ink inline-flex rounded p-1.5"
          >
            <Download aria-hidden="true" size={18} />
          </a>
        </Hint>
      )}
    </>
  );
}

function qualityFigures(quality: RenditionSummary['quality']): string[] {
  if (!quality) return ['–', '–', '–', '–'];
  // Every sample of every frame is the master's own; decibels have no end there.
  if (quality.ssim.low === 1 && quality.psnr.low >= IDENTICAL_DB) return Array<string>(4).fill('identical');
  const { ssim, psnr } = quality;
  const pair = (mean: number, low: number) => `${mean.toFixed(2)}\n${low.toFixed(2)}`;
  return [
    pair(ssimToDecibels(ssim.mean), ssimToDecibels(ssim.low)),
    pair(ssimToDecibels(ssim.lumaMean), ssimToDecibels(ssim.lumaLow)),
    pair(psnr.mean, psnr.low),
    pair(psnr.lumaMean, psnr.lumaLow),
  ];
}

function Cells({ values, titles = [] }: { readonly values: readonly string[]; readonly titles?: readonly string[] }) {
  return values.map((value, index) => (
    <td key={index} title={titles[index]} className="figure px-2 py-1.5 text-right whitespace-pre">
      {value}
    </td>
  ));
}
