import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';

interface Props {
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
  readonly title: string;
  readonly description: string;
  readonly children: ReactNode;
}

/** A sheet over the page, closed by Escape, by its button or by a press outside it. */
export function Sheet({ isOpen, onOpenChange, title, description, children }: Props) {
  return (
    <Dialog.Root open={isOpen} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content className="border-rule bg-sheet text-ink fixed top-[6vh] left-1/2 z-50 flex max-h-[88vh] w-[46rem] max-w-[calc(100vw-1rem)] -translate-x-1/2 flex-col overflow-y-auto rounded-md border p-5">
          <Dialog.Title className="text-lg font-semibold">{title}</Dialog.Title>
          <Dialog.Description className="text-quiet mb-3">{description}</Dialog.Description>
          {children}
          <Dialog.Close className="border-rule hover:bg-sunk mt-4 self-end rounded border px-3 py-1">
            Close
          </Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
