import { Dialog } from 'radix-ui';

const KEYS: readonly (readonly [where: string, keys: readonly (readonly [key: string, what: string])[]])[] = [
  [
    'Anywhere',
    [
      ['?', 'This list'],
      ['Esc', 'Close what is open'],
    ],
  ],
  ['Programmes', [['A', 'Add a programme']]],
  [
    'A programme',
    [
      ['Q', 'Queue the order'],
      ['Ctrl Z', 'Undo a change to the order'],
      ['Ctrl Shift Z', 'Redo it'],
      ['V', 'Look at the newest result'],
    ],
  ],
  [
    'Viewing desk',
    [
      ['← →', 'One frame back or on'],
      ['Shift ← →', 'One second back or on'],
      ['Home End', 'First or last frame'],
      ['F', 'Flip between master and result'],
      ['S', 'Split'],
      ['B', 'Side by side'],
      ['W', 'The worst frame'],
      ['0 1 4', 'Fitted, 1:1, 4:1'],
    ],
  ],
];

export function KeysDialog({
  isOpen,
  onOpenChange,
}: {
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
}) {
  return (
    <Dialog.Root open={isOpen} onOpenChange={onOpenChange}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          aria-describedby={undefined}
          className="border-rule bg-sheet text-ink fixed top-1/2 left-1/2 z-50 w-[40rem] -translate-x-1/2 -translate-y-1/2 rounded-md border p-6"
        >
          <Dialog.Title className="mb-4 text-lg font-semibold">Keys</Dialog.Title>
          <div className="grid grid-cols-2 gap-6">
            {KEYS.map(([where, keys]) => (
              <section key={where}>
                <h3 className="text-quiet mb-1 text-sm font-semibold">{where}</h3>
                <dl className="grid grid-cols-[7rem_1fr] gap-y-1">
                  {keys.map(([key, what]) => (
                    <div key={key} className="contents">
                      <dt className="figure">{key}</dt>
                      <dd>{what}</dd>
                    </div>
                  ))}
                </dl>
              </section>
            ))}
          </div>
          <Dialog.Close className="border-rule hover:bg-sunk mt-5 rounded border px-3 py-1">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
