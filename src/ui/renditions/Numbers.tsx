import { useQuery } from '@tanstack/react-query';
import Link from 'next/link';
import type { RenditionView } from '../../contract/views.ts';
import { MEASURES, type CloserLook, type SceneQuality } from '../../core/quality/closerLook.ts';
import { explainBanding, explainTint, MEASURE_WORDS, sayDecibels } from '../../core/quality/sayQuality.ts';
import { api } from '../hooks/api.ts';
import { Hint } from '../kit/Hint.tsx';
import { Notice } from '../kit/Notice.tsx';

/** Every number of a result, what each means, and what they do not tell. */
export function Numbers({ rendition, closer }: { readonly rendition: RenditionView; readonly closer: CloserLook }) {
  const tint = explainTint(closer.tint);
  const banding = explainBanding(closer.banding);
  return (
    <div className="space-y-2" data-testid="numbers">
      <div className="flex flex-wrap gap-x-10 gap-y-3">
        <NumbersTable rendition={rendition} pooled={closer.pooled} />
        <WorstScenes rendition={rendition} />
      </div>
      {tint && <Notice kind="caution">{tint}</Notice>}
      {banding && (
        <Notice kind="caution">
          {banding} <FrameLink rendition={rendition} frame={closer.banding.frame} label="Look where it is most" />
        </Notice>
      )}
      <p className="text-quiet max-w-[44rem] text-sm">
        Numbers tell where to look, and which of two is likely to be better. They do not replace looking.
      </p>
    </div>
  );
}

interface TableProps {
  readonly rendition: RenditionView;
  readonly pooled: CloserLook['pooled'];
}

function NumbersTable({ rendition, pooled }: TableProps) {
  return (
    <table className="text-sm">
      <thead className="text-quiet text-right">
        <tr>
          <th className="text-left font-normal">Against the master</th>
          {['mean', 'harmonic mean', 'worst twentieth from', 'lowest'].map((name) => (
            <th key={name} className="pl-4 font-normal">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {MEASURES.map((measure) => {
          const { mean, harmonic, fifth, low, lowFrame } = pooled[measure];
          return (
            <tr key={measure}>
              <th scope="row" className="text-left font-normal">
                <Hint text={MEASURE_WORDS[measure].meaning}>
                  <span tabIndex={0} className="underline decoration-dotted underline-offset-4">
                    {MEASURE_WORDS[measure].name}
                  </span>
                </Hint>
              </th>
              {[mean, harmonic, fifth].map((value, index) => (
                <td key={index} className="figure pl-4 text-right whitespace-nowrap">
                  {sayDecibels(value)}
                </td>
              ))}
              <td className="figure pl-4 text-right whitespace-nowrap">
                <FrameLink rendition={rendition} frame={lowFrame} label={sayDecibels(low)} />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** So many of the worst scenes are told. */
const SCENES_TOLD = 4;

function WorstScenes({ rendition }: { readonly rendition: RenditionView }) {
  const { data } = useQuery({
    queryKey: ['scenes', rendition.id],
    queryFn: () => api.scenesOf(rendition.id),
    staleTime: Infinity,
  });
  if (!data || data.scenes.length < 2) return null;
  const worst = data.scenes.toSorted((a, b) => a.ssim - b.ssim).slice(0, SCENES_TOLD);
  return (
    <table className="text-sm" data-testid="worst-scenes">
      <thead className="text-quiet text-right">
        <tr>
          <th className="text-left font-normal">Worst of {data.scenes.length} scenes</th>
          {MEASURES.map((measure) => (
            <th key={measure} className="pl-4 font-normal">
              {MEASURE_WORDS[measure].name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {worst.map((scene) => (
          <SceneRow key={scene.inFrame} rendition={rendition} scene={scene} />
        ))}
      </tbody>
    </table>
  );
}

function SceneRow({ rendition, scene }: { readonly rendition: RenditionView; readonly scene: SceneQuality }) {
  return (
    <tr>
      <th scope="row" className="figure text-left font-normal">
        <FrameLink
          rendition={rendition}
          frame={Math.floor((scene.inFrame + scene.outFrame) / 2)}
          label={`${scene.inFrame} to ${scene.outFrame}`}
        />
      </th>
      {MEASURES.map((measure) => (
        <td key={measure} className="figure pl-4 text-right whitespace-nowrap">
          {scene[measure] === null ? '–' : sayDecibels(scene[measure])}
        </td>
      ))}
    </tr>
  );
}

/** Leads to a frame on the viewing desk, as long as there is a file to look at. */
function FrameLink({ rendition, frame, label }: { rendition: RenditionView; frame: number; label: string }) {
  if (!rendition.hasFile) return label;
  return (
    <Link
      href={`/desk/${rendition.id}?frame=${frame}`}
      className="underline underline-offset-4"
      aria-label={`${label}, frame ${frame} on the viewing desk`}
    >
      {label}
    </Link>
  );
}
