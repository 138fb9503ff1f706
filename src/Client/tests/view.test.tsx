import { act, render } from '@testing-library/react'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useView, type Bounds } from '../src/drawings/useView'

let told: () => void = () => undefined
beforeEach(() => {
  vi.stubGlobal(
    'ResizeObserver',
    class {
      constructor(then: () => void) {
        told = then
      }
      observe() {
        told()
      }
      disconnect() {
        told = () => undefined
      }
    },
  )
  vi.spyOn(HTMLElement.prototype, 'clientWidth', 'get').mockReturnValue(668)
  vi.spyOn(HTMLElement.prototype, 'clientHeight', 'get').mockReturnValue(468)
})

const shown = (bounds: Bounds) => {
  let current: ReturnType<typeof useView> | undefined
  const Probe = () => {
    current = useView(bounds)
    return <div ref={current.box} />
  }
  render(<Probe />)
  return () => current!
}
const bed = { x: 0, y: 0, width: 300, height: 100 }

describe('the view onto a drawing', () => {
  it('shows all of it at first, with a margin', () => {
    const view = shown(bed)()
    expect(view.view).toEqual({ x: 150, y: 50, scale: 2 })
    expect(view.whole).toBe(true)
  })

  it('keeps the place under the middle of the box when it is made larger', () => {
    const now = shown(bed)
    act(() => now().larger())
    expect(now().view).toEqual({ x: 150, y: 50, scale: 3 })
    expect(now().whole).toBe(false)
    act(() => now().fit())
    expect(now().view.scale).toBe(2)
  })

  it('is never smaller than half of all, nor larger than 400 pixels to the mm', () => {
    const now = shown(bed)
    for (let i = 0; i < 20; i++) act(() => now().smaller())
    expect(now().view.scale).toBe(1)
    act(() => now().show(10, 20, 0.0001))
    expect(now().view).toEqual({ x: 10, y: 20, scale: 400 })
  })

  it('of a drawing without size is one all the same', () => {
    const { view } = shown({ x: 5, y: 5, width: 0, height: 0 })()
    expect(Number.isFinite(view.scale) && view.scale > 0).toBe(true)
  })
})
