import dynamic from 'next/dynamic';
import type { ProgrammeView, RenditionSummary } from '../../contract/views.ts';
import { RenditionTable } from './RenditionTable.tsx';

/** The chart's package is large and not needed for the first look at a page. */
const SizeQualityScale = dynamic(
  () => import('../scale/SizeQualityScale.tsx').then((module) => module.SizeQualityScale),
  {
    ssr: false,
    loading: () => <div className="h-72" />,
  },
);

interface Props {
  readonly programme: ProgrammeView;
  readonly renditions: readonly RenditionSummary[];
}

/** Master and results side by side in numbers, and size against quality. */
export function RenditionSection({ programme, renditions }: Props) {
  const measured = renditions.filter((rendition) => rendition.quality !== null && rendition.bytes !== null);
  return (
    <section aria-labelledby="renditions-heading" className="mt-8">
      <h2 id="renditions-heading" className="mb-1 text-lg font-semibold">
        Master and renditions
      </h2>
      {renditions.length === 0 ? (
        <p className="text-quiet">None yet. Queue the order above; the result is compared with the master here.</p>
      ) : (
        <RenditionTable programme={programme} renditions={renditions} />
      )}
      {measured.length > 0 && <SizeQualityScale renditions={measured} />}
    </section>
  );
}
