import drawingsCss from './drawings.module.css'
import { useCallback, useLayoutEffect, useRef, useState } from 'react'

/** What of the drawing is in sight: the middle in mm, and pixels to the mm. */
export interface View {
  x: number
  y: number
  scale: number
}

export interface Bounds {
  x: number
  y: number
  width: number
  height: number
}

const margin = 34
const most = 400

const within = (view: View, all: View): View => ({
  ...view,
  scale: Math.min(most, Math.max(all.scale / 2, view.scale)),
})

/** A view onto a drawing that follows the size of its box, and moves by wheel, drag, pinch and keys. */
export function useView(bounds: Bounds) {
  const box = useRef<HTMLDivElement>(null)
  const [size, setSize] = useState({ width: 0, height: 0 })
  const [moved, setMoved] = useState<View>()
  const fingers = useRef(new Map<number, { x: number; y: number }>())
  useLayoutEffect(() => {
    const element = box.current
    if (!element) return
    const observer = new ResizeObserver(() => setSize({ width: element.clientWidth, height: element.clientHeight }))
    observer.observe(element)
    return () => observer.disconnect()
  }, [])
  const all: View = {
    x: bounds.x + bounds.width / 2,
    y: bounds.y + bounds.height / 2,
    scale: Math.max(
      1e-6,
      Math.min(
        (size.width - 2 * margin) / Math.max(bounds.width, 0.1),
        (size.height - 2 * margin) / Math.max(bounds.height, 0.1),
      ),
    ),
  }
  const view = moved ?? all

  /** Zooms so that the place under the pointer, in pixels of the box, stays where it is. */
  const zoom = useCallback(
    (by: number, px: number, py: number) => {
      setMoved((before) => {
        const from = before ?? all
        const to = within({ ...from, scale: from.scale * by }, all)
        const [dx, dy] = [px - size.width / 2, py - size.height / 2]
        return {
          scale: to.scale,
          x: from.x + dx / from.scale - dx / to.scale,
          y: from.y + dy / from.scale - dy / to.scale,
        }
      })
    },
    // The values, not the object: it is made anew each time.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [all.x, all.y, all.scale, size.width, size.height],
  )
  const pan = (dx: number, dy: number) =>
    setMoved((before) => {
      const from = before ?? all
      return { ...from, x: from.x - dx / from.scale, y: from.y - dy / from.scale }
    })

  // React listens to the wheel without being able to keep the page from scrolling.
  useLayoutEffect(() => {
    const element = box.current
    if (!element) return
    const wheel = (event: WheelEvent) => {
      if (!event.ctrlKey && document.activeElement !== element) return
      event.preventDefault()
      const place = element.getBoundingClientRect()
      zoom(Math.exp(-event.deltaY / 400), event.clientX - place.left, event.clientY - place.top)
    }
    element.addEventListener('wheel', wheel, { passive: false })
    return () => element.removeEventListener('wheel', wheel)
  }, [zoom])

  const handlers = {
    onPointerDown: (event: React.PointerEvent) => {
      if ((event.target as Element).closest(`button, .${drawingsCss.pinmark}`)) return
      event.currentTarget.setPointerCapture(event.pointerId)
      fingers.current.set(event.pointerId, { x: event.clientX, y: event.clientY })
    },
    onPointerMove: (event: React.PointerEvent) => {
      const before = fingers.current.get(event.pointerId)
      if (!before) return
      const now = { x: event.clientX, y: event.clientY }
      const other = [...fingers.current].find(([id]) => id !== event.pointerId)?.[1]
      fingers.current.set(event.pointerId, now)
      if (!other) {
        pan(now.x - before.x, now.y - before.y)
        return
      }
      const place = event.currentTarget.getBoundingClientRect()
      const apart = (a: typeof now) => Math.max(1, Math.hypot(a.x - other.x, a.y - other.y))
      zoom(apart(now) / apart(before), (now.x + other.x) / 2 - place.left, (now.y + other.y) / 2 - place.top)
      pan((now.x - before.x) / 2, (now.y - before.y) / 2)
    },
    onPointerUp: (event: React.PointerEvent) => fingers.current.delete(event.pointerId),
    onPointerCancel: (event: React.PointerEvent) => fingers.current.delete(event.pointerId),
    onKeyDown: (event: React.KeyboardEvent) => {
      const keys: Record<string, () => void> = {
        '+': () => zoom(1.5, size.width / 2, size.height / 2),
        '=': () => zoom(1.5, size.width / 2, size.height / 2),
        '-': () => zoom(1 / 1.5, size.width / 2, size.height / 2),
        '0': () => setMoved(undefined),
        ArrowLeft: () => pan(60, 0),
        ArrowRight: () => pan(-60, 0),
        ArrowUp: () => pan(0, 60),
        ArrowDown: () => pan(0, -60),
      }
      const act = keys[event.key]
      if (!act || event.target !== event.currentTarget) return
      event.preventDefault()
      act()
    },
  }
  return {
    box,
    size,
    view,
    handlers,
    whole: !moved,
    fit: () => setMoved(undefined),
    larger: () => zoom(1.5, size.width / 2, size.height / 2),
    smaller: () => zoom(1 / 1.5, size.width / 2, size.height / 2),
    /** Brings a place into the middle, so that so many mm of it fill the box. */
    show: (x: number, y: number, mm: number) =>
      setMoved(within({ x, y, scale: Math.min(size.width, size.height) / Math.max(mm, 0.05) }, all)),
  }
}
