/** Every move of a run: when it ends, where, and what was done. Between two of them the head goes straight on. */
export interface RunTimeline {
  ends: Float32Array
  xs: Float32Array
  ys: Float32Array
  /** 0 beam off, 1 cut, 2 score, 3 engrave. */
  what: Float32Array
  count: number
  seconds: number
}

export const doing = ['beam off', 'cut', 'score', 'engrave'] as const

/** Four columns of little-endian 32-bit floats, one after the other. */
export function readTimeline(bytes: ArrayBuffer): RunTimeline {
  const count = bytes.byteLength / 16
  const view = new DataView(bytes)
  const column = (n: number) =>
    Float32Array.from({ length: count }, (_, i) => view.getFloat32((n * count + i) * 4, true))
  const ends = column(0)
  return { ends, xs: column(1), ys: column(2), what: column(3), count, seconds: count > 0 ? ends[count - 1]! : 0 }
}

/** The move that is going on at a second: the first that ends then or later. */
export function moveAt({ ends, count }: RunTimeline, second: number): number {
  let [low, high] = [0, count - 1]
  while (low < high) {
    const middle = (low + high) >> 1
    if (ends[middle]! < second) low = middle + 1
    else high = middle
  }
  return Math.max(0, low)
}

/** Where the head is at a second, and what it does. */
export function headAt(run: RunTimeline, second: number): { x: number; y: number; what: number; move: number } {
  const move = moveAt(run, second)
  const [to, from] = [run.ends[move] ?? 0, run.ends[move - 1] ?? 0]
  const part = move === 0 || to <= from ? 1 : Math.min(1, Math.max(0, (second - from) / (to - from)))
  const between = (values: Float32Array) => {
    const [a, b] = [values[Math.max(0, move - 1)] ?? 0, values[move] ?? 0]
    return a + part * (b - a)
  }
  return { x: between(run.xs), y: between(run.ys), what: run.what[move] ?? 0, move }
}
