import { describe, expect, it } from 'vitest'
import { minutesLeft } from '../src/station/useStation'

describe('minutes left', () => {
  it('shows the second that is running, and never less than nothing', () => {
    expect(minutesLeft(112_000)).toBe('1:52')
    expect(minutesLeft(111_001)).toBe('1:52')
    expect(minutesLeft(60_000)).toBe('1:00')
    expect(minutesLeft(1)).toBe('0:01')
    expect(minutesLeft(-5)).toBe('0:00')
  })
})
