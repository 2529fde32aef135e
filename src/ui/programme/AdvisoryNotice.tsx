import { Check } from 'lucide-react';
import type { ReactNode } from 'react';
import type { Advisory, Fix } from '../../core/advice/advisory.ts';
import { Button } from '../kit/Button.tsx';
import { Notice } from '../kit/Notice.tsx';

const KIND = { serious: 'wrong', caution: 'caution', note: 'note' } as const;

interface Props {
  readonly advisory: Advisory;
  /** The key of its fix; 0 when the order does it already. */
  readonly number: number;
  readonly onFix: (fix: Fix) => void;
  /** Takes it back; null where it goes from the list once it is done. */
  readonly onWithdraw: ((fix: Fix) => void) | null;
  readonly children?: ReactNode;
}

/** What should be known, and what can be done about it by a key. */
export function AdvisoryNotice({ advisory, number, onFix, onWithdraw, children }: Props) {
  const { severity, message, remedy, fix } = advisory;
  return (
    <Notice kind={KIND[severity]}>
      {message} {remedy && <span className="text-quiet">{remedy}</span>}
      {children}
      {fix &&
        (number === 0 ? (
          <div className="mt-1 flex items-center gap-3" data-testid="fix-done">
            <span className="text-measured inline-flex items-center gap-1 font-semibold">
              <Check aria-hidden="true" size={16} /> Done: {fix.label.charAt(0).toLowerCase() + fix.label.slice(1)}
            </span>
            {onWithdraw && (
              <Button look="quiet" onClick={() => onWithdraw(fix)}>
                Undo it
              </Button>
            )}
          </div>
        ) : (
          <div className="mt-1">
            <Button {...(number < 10 ? { hotkey: String(number) } : {})} onClick={() => onFix(fix)}>
              {fix.label}
            </Button>
          </div>
        ))}
    </Notice>
  );
}
