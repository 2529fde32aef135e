import type { EncodePlan } from '../../core/plan/encodePlan.ts';
import { webTypeOfPlan } from '../../core/plan/webTypeOfPlan.ts';
import { useIsInBrowser } from '../hooks/useIsInBrowser.ts';

/** What the browser in front of the user says of a file before it is made. */
export function PlaysHere({ plan }: { readonly plan: EncodePlan }) {
  const isInBrowser = useIsInBrowser();
  const type = webTypeOfPlan(plan);
  if (!isInBrowser || type === null) return null;
  const [mime, codecs] = type.split('; codecs=');
  const plays = document.createElement('video').canPlayType(type) !== '';
  return (
    <p className="text-quiet mt-1 text-sm" data-testid="plays-here">
      {plays ? 'This browser plays it' : 'This browser says that it does not play it'}:{' '}
      <span className="figure">
        {mime}, {codecs?.replaceAll('"', '')}
      </span>
    </p>
  );
}
