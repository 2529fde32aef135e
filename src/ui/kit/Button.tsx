import clsx from 'clsx';
import type { ButtonHTMLAttributes } from 'react';

interface Props extends ButtonHTMLAttributes<HTMLButtonElement> {
  readonly look?: 'main' | 'plain' | 'quiet';
  readonly hotkey?: string;
}

/** A button; `hotkey` is shown, not bound. */
export function Button({ look = 'plain', hotkey, className, children, ...rest }: Props) {
  return (
    <button
      type="button"
      {...rest}
      className={clsx(
        'inline-flex items-center gap-2 rounded px-3 py-1 disabled:cursor-not-allowed disabled:opacity-50',
        look === 'main' && 'bg-ember text-on-ember font-semibold hover:brightness-110',
        look === 'plain' && 'border-rule bg-sheet hover:bg-sunk border',
        look === 'quiet' && 'text-quiet hover:bg-sunk hover:text-ink',
        className,
      )}
    >
      {children}
      {hotkey && <kbd className="figure rounded border border-current px-1 text-xs opacity-80">{hotkey}</kbd>}
    </button>
  );
}
