import { useWindowVirtualizer, type Range } from '@tanstack/react-virtual'
import { useCallback, useLayoutEffect, useState } from 'react'

/** Up to here every row is drawn, so that the browser's own search finds it. */
const DRAWN_WHOLE = 120

/** Rows come and go so many at a time: each change of the table is painted anew as a whole, and most frames of a scroll need none. */
const BLOCK = 12

const blocks = ({ startIndex, endIndex, overscan, count }: Range) => {
  const first = Math.max(0, Math.floor((startIndex - overscan) / BLOCK) * BLOCK)
  const last = Math.min(count, Math.ceil((endIndex + 1 + overscan) / BLOCK) * BLOCK)
  return Array.from({ length: last - first }, (_, i) => first + i)
}

/**
 * Which rows of a long table to draw while the page scrolls, and the heights that stand for the rest (CSS px).
 * Rows carry `data-index` and the `measure` ref; `height` is the first guess of one.
 */
export function useRowsInSight<T extends HTMLElement>({ keys, height }: { keys: string[]; height: number }) {
  const [table, setTable] = useState<T | null>(null)
  const [top, setTop] = useState(0)
  useLayoutEffect(() => {
    if (!table) return
    const read = () => setTop(table.getBoundingClientRect().top + window.scrollY)
    read()
    const seen = new ResizeObserver(read)
    seen.observe(document.body)
    return () => seen.disconnect()
  }, [table])
  const virtual = useWindowVirtualizer({
    count: keys.length,
    estimateSize: () => height,
    getItemKey: (index) => keys[index] ?? index,
    overscan: keys.length <= DRAWN_WHOLE ? DRAWN_WHOLE : 4,
    rangeExtractor: blocks,
    scrollMargin: top,
  })
  const rows = virtual.getVirtualItems()
  const focus = useCallback(
    (index: number, what: string) => {
      virtual.scrollToIndex(index, { align: 'auto' })
      const find = (tries: number) => {
        const found = table?.querySelector<HTMLElement>(`[data-index="${index}"] ${what}`)
        if (found) found.focus()
        else if (tries > 0) requestAnimationFrame(() => find(tries - 1))
      }
      find(20)
    },
    [virtual, table],
  )
  return {
    setTable,
    rows,
    focus,
    measure: virtual.measureElement,
    above: (rows[0]?.start ?? top) - top,
    below: virtual.getTotalSize() - ((rows.at(-1)?.end ?? top) - top),
  }
}
