import { act, renderHook } from '@testing-library/react'
import { beforeEach, describe, expect, it } from 'vitest'
import { namesInARow } from '../src/kit/names'
import { chooseUnit, lengthIn, useUnit } from '../src/kit/units'

beforeEach(() => localStorage.clear())

describe('lengths', () => {
  it('are shown to a hundredth of a mm or a thousandth of an inch', () => {
    expect(lengthIn('mm', 3)).toBe('3')
    expect(lengthIn('mm', 6.3499)).toBe('6.35')
    // An inch is 25.4 mm exactly (international yard and pound agreement, 1959).
    expect(lengthIn('in', 25.4)).toBe('1')
    expect(lengthIn('in', 3.175)).toBe('0.125')
  })

  it('follow a choice at once, also one made in another tab', () => {
    const { result } = renderHook(() => useUnit())
    expect(result.current).toBe('mm')
    act(() => chooseUnit('in'))
    expect(result.current).toBe('in')
    act(() => {
      localStorage.setItem('velvetgate.unit', 'mm')
      window.dispatchEvent(new StorageEvent('storage', { key: 'velvetgate.unit' }))
    })
    expect(result.current).toBe('mm')
  })
})

describe('names in a row', () => {
  it('says how many more there are', () => {
    const names = Array.from({ length: 15 }, (_, i) => `P${i}`)
    expect(namesInARow(names.slice(0, 12))).not.toContain('more')
    expect(namesInARow(names)).toMatch(/P11 and 3 more$/)
  })
})
