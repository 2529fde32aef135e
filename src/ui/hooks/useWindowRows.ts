import { useWindowVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useRef, useState } from 'react';

/** Rows beyond the window's edges, so that scrolling shows no gaps. */
const SPARE_ROWS = 6;

/**
 * Of a long table in the window only the rows in sight.
 *
 * @param usualHeight - Of a row in pixels, before it is measured.
 * @returns The table's own ref, the rows to draw, what their elements are measured by, and how high the gaps before and after them are.
 */
export function useWindowRows(count: number, usualHeight: number, keyOf: (index: number) => string | number) {
  const table = useRef<HTMLTableElement>(null);
  const [offset, setOffset] = useState(0);
  const rows = useWindowVirtualizer({
    count,
    estimateSize: () => usualHeight,
    overscan: SPARE_ROWS,
    scrollMargin: offset,
    getItemKey: keyOf,
  });
  const items = rows.getVirtualItems();
  const first = items[0]?.index;
  // What stands above grows and shrinks: it is looked at again as the list is scrolled.
  useLayoutEffect(() => setOffset(table.current?.offsetTop ?? 0), [count, first]);
  return {
    table,
    items,
    measure: rows.measureElement,
    before: (items[0]?.start ?? offset) - offset,
    after: rows.getTotalSize() - ((items.at(-1)?.end ?? offset) - offset),
  };
}
