import { Play } from 'lucide-react';
import { useState } from 'react';
import type { RenditionView } from '../../contract/views.ts';
import { pictureOf } from '../../core/plan/encodePlan.ts';
import { fileOfRendition } from '../hooks/api.ts';
import { Button } from '../kit/Button.tsx';
import { Notice } from '../kit/Notice.tsx';

/** The result as this browser plays it, once it is asked for; where it does not, that is said. */
export function PlayResult({ rendition }: { readonly rendition: RenditionView }) {
  const [isAsked, setAsked] = useState(false);
  const [cannot, setCannot] = useState(false);
  const hasPicture = pictureOf(rendition.plan) !== null;
  if (!isAsked) {
    return (
      <Button onClick={() => setAsked(true)}>
        <Play aria-hidden="true" size={16} /> Play it here
      </Button>
    );
  }
  if (cannot) {
    return (
      <Notice kind="note">
        This browser does not play this file; others may. The viewing desk shows its frames all the same.
      </Notice>
    );
  }
  return (
    <video
      src={fileOfRendition(rendition.id)}
      controls
      autoPlay
      aria-label={`Result: ${rendition.name}`}
      className="bg-desk max-h-80 max-w-full"
      onError={() => setCannot(true)}
      // Some codecs play their sound alone, and no error is told.
      onLoadedMetadata={({ currentTarget }) => setCannot(hasPicture && currentTarget.videoWidth === 0)}
    />
  );
}
