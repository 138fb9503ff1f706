import { useWindowVirtualizer } from '@tanstack/react-virtual'
import { useCallback, useLayoutEffect, useState } from 'react'

/** Up to here every row is drawn, so that the browser's own search finds it. */
const DRAWN_WHOLE = 120

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
    overscan: keys.length <= DRAWN_WHOLE ? DRAWN_WHOLE : 6,
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
