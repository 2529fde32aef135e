import clsx from 'clsx';
import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';

interface Props {
  /** What the value is, for screen readers and the popover's heading. */
  readonly label: string;
  readonly text: string;
  readonly problem?: string | undefined;
  /** For lists in two columns. */
  readonly isWide?: boolean;
  readonly children: (close: () => void) => ReactNode;
}

/** One underlined value of the order line, opened in place. */
export function Token({ label, text, problem, isWide = false, children }: Props) {
  const [isOpen, setOpen] = useState(false);
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger
        aria-label={`${label}: ${text}`}
        className={clsx(
          'hover:bg-ember-soft data-[state=open]:bg-ember-soft cursor-pointer rounded-sm border-b-2 px-0.5 whitespace-nowrap',
          problem ? 'border-wrong text-wrong border-dotted' : 'border-ember',
        )}
      >
        {text}
        {problem && <span aria-hidden="true"> ✕</span>}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          onEscapeKeyDown={(event) => {
            // A field takes back what was typed first, and then closes by itself.
            if (event.target instanceof HTMLInputElement && event.target.type !== 'checkbox') event.preventDefault();
          }}
          // Above the sentence: what comes of it is watched below.
          side="top"
          sideOffset={6}
          align="start"
          collisionPadding={12}
          className={clsx(
            'border-rule bg-sheet text-ink z-30 max-h-(--radix-popover-content-available-height) max-w-[calc(100vw-24px)] overflow-y-auto rounded-md border p-3 text-base shadow-lg',
            isWide ? 'w-[38rem]' : 'w-72',
          )}
          aria-label={label}
        >
          <h3 className="text-quiet mb-2 text-sm">{label}</h3>
          {children(() => setOpen(false))}
          {problem && <p className="text-wrong mt-2 text-sm">{problem}</p>}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
