import { Tooltip } from 'radix-ui';
import type { ReactNode } from 'react';

/** Words for a control that shows only a picture, seen while it is pointed at or has the focus. */
export function Hint({ text, children }: { readonly text: string; readonly children: ReactNode }) {
  return (
    <Tooltip.Root>
      <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
      <Tooltip.Portal>
        <Tooltip.Content sideOffset={4} className="bg-ink text-paper z-50 rounded px-2 py-0.5 text-sm">
          {text}
        </Tooltip.Content>
      </Tooltip.Portal>
    </Tooltip.Root>
  );
}
