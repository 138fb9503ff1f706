import { describe, expect, it } from 'vitest'
import { events } from '../src/reports/steps'

const stream = (...chunks: string[]) =>
  new ReadableStream<Uint8Array>({
    start(controller) {
      const encoder = new TextEncoder()
      chunks.forEach((chunk) => controller.enqueue(encoder.encode(chunk)))
      controller.close()
    },
  })

const all = async (...chunks: string[]) => {
  const read: unknown[] = []
  for await (const event of events(stream(...chunks))) read.push(event)
  return read
}

describe('steps of an answer', () => {
  it('are read one by one, however the bytes are cut', async () => {
    const text = 'event: step\ndata: {"done":1}\n\nevent: result\ndata: {"done":2,"word":"ä"}\n\n'
    expect(await all(text)).toEqual([{ done: 1 }, { done: 2, word: 'ä' }])
    expect(await all(...Array.from(text))).toEqual([{ done: 1 }, { done: 2, word: 'ä' }])
  })

  it('leave out what has no data, and what never ended', async () => {
    expect(await all(': hello\n\n', 'data: {"a":1}\n\n', 'data: {"b":')).toEqual([{ a: 1 }])
    expect(await all()).toEqual([])
  })
})
