import { useQuery } from '@tanstack/react-query';
import { api, captionsFile } from '../hooks/api.ts';

/** What goes beside a rendition for those who read along: each of its programme's captions, cut to its length. */
export function Captions({ id }: { readonly id: string }) {
  const { data: captions = [] } = useQuery({ queryKey: ['captions', id], queryFn: () => api.captionsOf(id) });
  if (captions.length === 0) return null;
  return (
    <p className="text-sm" data-testid="captions">
      Captions of its length, as WebVTT:{' '}
      {captions.map(({ label, isText }, number) => (
        <span key={number}>
          {number > 0 && ' · '}
          {isText ? (
            <a className="underline underline-offset-4" href={captionsFile(id, number)} download>
              {label}
            </a>
          ) : (
            <span className="text-quiet">{label} (not text)</span>
          )}
        </span>
      ))}
    </p>
  );
}
