import { Sheet } from '../kit/Sheet.tsx';

const KEYS: readonly (readonly [where: string, keys: readonly (readonly [key: string, what: string])[]])[] = [
  [
    'Anywhere',
    [
      ['?', 'This list'],
      ['Esc', 'Close what is open'],
    ],
  ],
  [
    'Programmes',
    [
      ['A', 'Add a programme'],
      ['R', 'Render what is chosen; Shift with a box takes a range'],
      ['Ctrl Z', 'Bring back what was forgotten last'],
    ],
  ],
  [
    'A programme',
    [
      ['Space', 'Play or pause'],
      ['J K L', 'Backwards, pause, forwards; again for faster'],
      ['← →', 'One frame back or on; with Shift one second'],
      ['[ ]', 'The scene change before or after'],
      ['Home End', 'First or last frame'],
      ['I O', 'Set in or out at the playhead; with Shift go there'],
      ['+ − 0', 'Strips closer, further, whole length'],
      ['1 2 3', 'Apply the fix with that number'],
      ['G', 'See the frame at the playhead as it is ordered'],
      ['F', 'Flip it with the master’s'],
      ['Q', 'Queue the order'],
      ['Ctrl Z', 'Undo a change to the order or the portions'],
      ['Ctrl Shift Z', 'Redo it'],
      ['V', 'Look at the newest result'],
    ],
  ],
  [
    'Queue',
    [
      ['P', 'Pause everything, or go on'],
      ['Space ↑ ↓', 'On a handle: take it up, move it in the line'],
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
      ['0 1 2 4 8', 'Fitted, 1:1, 2:1, 4:1, 8:1; the wheel too'],
      ['Ctrl ← → ↑ ↓', 'Look elsewhere; or drag the picture'],
    ],
  ],
];

/** Every key there is, by the place where it works. */
export function KeysDialog({
  isOpen,
  onOpenChange,
}: {
  readonly isOpen: boolean;
  readonly onOpenChange: (isOpen: boolean) => void;
}) {
  return (
    <Sheet
      isOpen={isOpen}
      onOpenChange={onOpenChange}
      title="Keys"
      description="They work while no field is being typed in."
    >
      <div className="grid grid-cols-1 gap-6 sm:grid-cols-2">
        {KEYS.map(([where, keys]) => (
          <section key={where}>
            <h3 className="text-quiet mb-1 text-sm font-semibold">{where}</h3>
            <dl className="grid grid-cols-[6rem_1fr] gap-y-1">
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
    </Sheet>
  );
}
