import type { ProgrammeView } from '../../contract/views.ts';
import type { Advisory, Fix } from '../../core/advice/advisory.ts';
import { isApplied, type OrderState } from '../../core/advice/applyFix.ts';
import { useActKey } from '../hooks/useWorkKey.ts';

/**
 * One key for each thing that can be done, of programme and order alike, in the order they stand on the page.
 *
 * @param order - What is ordered so far: what it does already is not offered again.
 * @returns The key of a fix; 0 when the order does it already.
 */
export function useFixKeys(
  programme: ProgrammeView,
  advisories: readonly Advisory[],
  order: OrderState,
  onFix: (fix: Fix) => void,
): (fix: Fix) => number {
  const open = advisories.flatMap(({ fix }) => (fix && !isApplied(programme, fix, order) ? [fix] : []));
  useActKey('1,2,3,4,5,6,7,8,9', ({ key }) => {
    const fix = open[Number(key) - 1];
    if (fix) onFix(fix);
  });
  return (fix) => open.indexOf(fix) + 1;
}
