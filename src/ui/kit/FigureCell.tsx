/** What a narrow window leaves out of a table. */
export const WHERE_WIDE = 'max-md:hidden';

/** A number in a table. */
export function FigureCell({ children, isExtra = false }: { readonly children: string; readonly isExtra?: boolean }) {
  return <td className={`figure px-2 py-1.5 text-right whitespace-nowrap ${isExtra ? WHERE_WIDE : ''}`}>{children}</td>;
}
