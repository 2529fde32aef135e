'use client';

import { useQuery } from '@tanstack/react-query';
import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import { useState } from 'react';
import type { ProgrammeView, RenditionView } from '../../contract/views.ts';
import { pictureOf } from '../../core/plan/encodePlan.ts';
import { framesOf } from '../../core/plan/planPicture.ts';
import { sameFrames } from '../../core/timing/frameMap.ts';
import { displaySize, SQUARE, type FrameSize } from '../../core/geometry/frameSize.ts';
import { turnedAspect } from '../../core/geometry/framing.ts';
import { toNumber } from '../../core/timing/rational.ts';
import { api } from '../hooks/api.ts';
import { useProgramme, useRendition } from '../hooks/queries.ts';
import { useCameFrom } from '../hooks/cameFrom.ts';
import { useClock } from '../hooks/useClock.ts';
import { formatBytes } from '../kit/format.ts';
import { Notice } from '../kit/Notice.tsx';
import { timelineOf } from '../player/timeline.ts';
import { DeskControls } from './DeskControls.tsx';
import { PictureView, type Mode } from './PictureView.tsx';
import { parseQualityRows, valuesAt, type QualityRows } from './qualityRows.ts';
import { QualityStrip } from './QualityStrip.tsx';
import { useDeskKeys } from './useDeskKeys.ts';
import { useFramePair } from './useFramePair.ts';
import { MIDDLE, type Place, type Zoom } from './viewport.ts';

/** The viewing desk: the same frame of master and result. */
export function DeskPage({ renditionId }: { readonly renditionId: string }) {
  const { data: rendition, error } = useRendition(renditionId);
  const { data: programme } = useProgramme(rendition?.programmeId ?? '');
  const { data: rows } = useQuery({
    queryKey: ['qualities', renditionId],
    enabled: rendition?.quality != null,
    staleTime: Infinity,
    queryFn: async () => parseQualityRows(await api.qualities(renditionId)),
  });
  const problem = error?.message ?? explainMissing(rendition);
  if (problem) {
    return (
      <main className="mx-auto max-w-6xl px-5 py-5">
        <Notice kind="wrong" role="alert">
          {problem}
        </Notice>
      </main>
    );
  }
  if (!rendition || !programme || !rows) return <main className="text-quiet px-5 py-5">Laying out the pictures …</main>;
  return <Desk programme={programme} rendition={rendition} rows={rows} />;
}

function explainMissing(rendition: RenditionView | undefined): string | null {
  if (!rendition) return null;
  if (!rendition.quality || !rendition.hasFile)
    return 'There is nothing to compare yet; the pictures are here once the rendition is done.';
  return null;
}

interface Props {
  readonly programme: ProgrammeView;
  readonly rendition: RenditionView;
  readonly rows: QualityRows;
}

function Desk({ programme, rendition, rows }: Props) {
  const worst = rendition.quality?.ssim.lowFrame ?? 0;
  const last = rows.ssim.length - 1;
  const clock = useClock(programme);
  const timeline = timelineOf(programme, clock);
  const picture = pictureOf(rendition.plan);
  const frames = picture ? framesOf(picture, clock) : sameFrames(0);
  const [frame, setFrame] = useState(useAskedFrame(last) ?? worst);
  const [mode, setMode] = useState<Mode>('split');
  const [zoom, setZoom] = useState<Zoom>('fit');
  const [centre, setCentre] = useState<Place>(MIDDLE);
  const [isFlipped, setFlipped] = useState(false);
  const [divider, setDivider] = useState(0.5);
  const goTo = (wanted: number) => setFrame(Math.min(last, Math.max(0, wanted)));
  const flip = () => {
    setFlipped(mode === 'flip' ? !isFlipped : true);
    setMode('flip');
  };
  const lookBy = (x: number, y: number) =>
    setCentre((now) => ({ x: clamp(now.x + x * LOOK_STEP), y: clamp(now.y + y * LOOK_STEP) }));
  const second = Math.round(toNumber(picture?.out.frameRate ?? programme.frameRate));
  useDeskKeys({ frame, last, worst, second, goTo, flip, setMode, setZoom, look: lookBy });
  const pair = useFramePair(rendition.id, frame, last);
  const shape = seenSize(programme, rendition);
  return (
    <main className="flex h-[calc(100vh-3.1rem)] flex-col">
      <div className="flex items-baseline gap-3 px-4 py-1.5">
        <BackLink programme={programme} />
        <h1 className="text-quiet min-w-0 truncate">
          {rendition.portionName && `${rendition.portionName}: `}
          {rendition.sentence}, {formatBytes(rendition.bytes ?? 0)}
        </h1>
      </div>
      {pair.shown ? (
        <PictureView
          pair={pair.shown}
          mode={mode}
          zoom={zoom}
          centre={centre}
          shape={shape}
          isFlipped={isFlipped}
          divider={divider}
          onDivider={setDivider}
          onLook={(closer, place) => {
            setZoom(closer);
            setCentre(place);
          }}
        />
      ) : (
        <div className="bg-desk flex min-h-0 grow items-center justify-center text-black">Decoding the frame …</div>
      )}
      <div className="space-y-1.5 px-4 py-2">
        <QualityStrip decibels={rows.ssim} frame={frame} worstFrame={worst} onFrame={goTo} />
        <DeskControls
          frame={frame}
          shownFrame={pair.shown?.frame ?? null}
          hasFailed={pair.kind === 'failed'}
          frames={frames}
          timeline={timeline}
          values={valuesAt(rows, frame)}
          mode={mode}
          zoom={zoom}
          onFrame={goTo}
          onMode={setMode}
          onZoom={setZoom}
          onWorst={() => goTo(worst)}
        />
      </div>
    </main>
  );
}

/** The frame that the address asks for. */
function useAskedFrame(last: number): number | null {
  const asked = Number(useSearchParams().get('frame') ?? NaN);
  return Number.isInteger(asked) && asked >= 0 && asked <= last ? asked : null;
}

/** One press of a key looks on by this share of the picture. */
const LOOK_STEP = 0.05;

function clamp(share: number): number {
  return Math.min(1, Math.max(0, share));
}

/** What is compared, in square pixels: the master as it was cropped and turned. */
function seenSize(programme: ProgrammeView, { plan, recipe }: RenditionView): FrameSize {
  const stored = pictureOf(plan)?.comparedAt ?? programme;
  return displaySize(stored, turnedAspect(programme.video?.pixelAspect ?? SQUARE, recipe.picture.rotate));
}

/** Back to where one was, when one came from there; otherwise to the programme. */
function BackLink({ programme }: { readonly programme: ProgrammeView }) {
  const router = useRouter();
  const cameFrom = useCameFrom();
  return (
    <Link
      href={`/programmes/${programme.id}`}
      onClick={(event) => {
        if (cameFrom === null || event.ctrlKey || event.metaKey || event.shiftKey) return;
        event.preventDefault();
        router.back();
      }}
      className="shrink-0 font-semibold underline-offset-4 hover:underline"
    >
      ← {programme.name}
    </Link>
  );
}
