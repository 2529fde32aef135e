import { CircleAlert, Info, TriangleAlert } from 'lucide-react';
import type { ReactNode } from 'react';

const LOOKS = {
  wrong: { Icon: CircleAlert, className: 'border-wrong bg-wrong-soft', label: 'Problem' },
  caution: { Icon: TriangleAlert, className: 'border-ember bg-ember-soft', label: 'Caution' },
  note: { Icon: Info, className: 'border-rule bg-sunk', label: 'Note' },
} as const;

/** A sentence that matters, told apart by icon and word as well as colour. */
export function Notice({
  kind,
  children,
  ...rest
}: {
  readonly kind: keyof typeof LOOKS;
  readonly children: ReactNode;
  readonly role?: string;
}) {
  const { Icon, className, label } = LOOKS[kind];
  return (
    <div {...rest} className={`flex gap-2 border-l-2 px-3 py-1.5 ${className}`}>
      <Icon aria-hidden="true" size={17} className="mt-0.5 shrink-0" />
      <div>
        <span className="sr-only">{label}: </span>
        {children}
      </div>
    </div>
  );
}
