import { describe, expect, it } from 'vitest'
import { HouseTime } from '../src/kit/time'

/** Offsets of the zones are those of the tz database: London leaves summer time on 25 October 2026 at 01:00 UTC. */
describe('the house’s wall clock', () => {
  const london = new HouseTime('Europe/London')

  it('says the doubled hour twice, and no hour that is not there', () => {
    expect(london.clock('2026-10-25T00:30:00Z')).toBe('01:30')
    expect(london.clock('2026-10-25T01:30:00Z')).toBe('01:30')
    expect(london.clock('2026-03-29T00:59:00Z')).toBe('00:59')
    expect(london.clock('2026-03-29T01:00:00Z')).toBe('02:00')
  })

  it('names the day of the house, not of the reader', () => {
    const auckland = new HouseTime('Pacific/Auckland')
    expect(auckland.day('2026-11-24T12:00:00Z')).toBe('Wed 25 Nov')
    expect(auckland.iso('2026-11-24T12:00:00Z')).toBe('2026-11-25')
    expect(london.iso('2026-11-24T12:00:00Z')).toBe('2026-11-24')
  })

  it('writes midnight as 00:00', () => {
    expect(london.clock('2026-11-24T00:00:00Z')).toBe('00:00')
    expect(london.moment('2026-11-24T00:00:00Z')).toBe('Tue 24 Nov 00:00')
  })
})
