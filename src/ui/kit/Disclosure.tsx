import clsx from 'clsx';
import { ChevronRight } from 'lucide-react';
import type { ReactNode } from 'react';

interface Props {
  readonly name: ReactNode;
  readonly className?: string;
  readonly look?: 'quiet' | 'plain' | 'wrong';
  readonly testId?: string;
  readonly onOpen?: (isOpen: boolean) => void;
  readonly children: ReactNode;
}

const LOOKS = { quiet: 'text-quiet hover:text-ink', plain: '', wrong: 'text-wrong' } as const;

/** What is there for whoever opens it; shut, it takes one line. */
export function Disclosure({ name, className, look = 'plain', testId, onOpen, children }: Props) {
  return (
    <details
      className={className}
      data-testid={testId}
      onToggle={onOpen && ((event) => onOpen(event.currentTarget.open))}
    >
      <summary
        className={clsx('inline-flex max-w-full cursor-pointer list-none items-center gap-1 rounded', LOOKS[look])}
      >
        {/* By its own summary alone: one may lie in another that is open. */}
        <ChevronRight
          aria-hidden="true"
          size={16}
          className="shrink-0 transition-transform motion-reduce:transition-none [[open]>summary>&]:rotate-90"
        />
        {name}
      </summary>
      {children}
    </details>
  );
}
