import { describe, expect, it } from 'vitest'
import { headAt, moveAt, readTimeline } from './runTimeline'

/** A head that starts at (0, 0), cuts 10 mm in 2 s, hops on in 1 s and engraves 5 mm in 4 s. */
const bytes = () => {
  const columns = [
    [0, 2, 3, 7],
    [0, 10, 20, 25],
    [0, 0, 5, 5],
    [0, 1, 0, 3],
  ].flat()
  const view = new DataView(new ArrayBuffer(columns.length * 4))
  columns.forEach((value, i) => view.setFloat32(i * 4, value, true))
  return view.buffer
}

describe('the moves of a run', () => {
  it('reads one column after the other', () => {
    const run = readTimeline(bytes())
    expect([run.count, run.seconds, [...run.what]]).toEqual([4, 7, [0, 1, 0, 3]])
  })

  it('knows where the head is, between two moves and at their ends', () => {
    const run = readTimeline(bytes())
    expect(headAt(run, 0)).toMatchObject({ x: 0, y: 0 })
    expect(headAt(run, 1)).toMatchObject({ x: 5, y: 0, what: 1 })
    expect(headAt(run, 2.5)).toMatchObject({ x: 15, y: 2.5, what: 0 })
    expect(headAt(run, 7)).toMatchObject({ x: 25, y: 5, what: 3, move: 3 })
    expect(headAt(run, 99)).toMatchObject({ x: 25, y: 5 })
  })

  it('finds each move by its end, as a look at all of them does', () => {
    const run = readTimeline(bytes())
    for (let second = 0; second <= 7; second += 0.25)
      expect(moveAt(run, second)).toBe(
        Math.max(
          0,
          [...run.ends].findIndex((end) => end >= second),
        ),
      )
  })

  it('stands still where nothing runs', () => {
    const run = readTimeline(new ArrayBuffer(0))
    expect([run.count, run.seconds, headAt(run, 3).x]).toEqual([0, 0, 0])
  })
})
