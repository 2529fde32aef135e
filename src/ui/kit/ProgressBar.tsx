import clsx from 'clsx';
import { Progress } from 'radix-ui';

interface Props {
  /** From 0 to 1. */
  readonly fraction: number;
  /** What goes on, for those who hear it. */
  readonly label: string;
  readonly className: string;
}

/** How far something is. */
export function ProgressBar({ fraction, label, className }: Props) {
  return (
    <Progress.Root
      value={fraction}
      max={1}
      aria-label={label}
      className={clsx('bg-sunk overflow-hidden rounded-full', className)}
    >
      <Progress.Indicator className="bg-ember h-full" style={{ width: `${fraction * 100}%` }} />
    </Progress.Root>
  );
}
