import { useEffect, useRef } from 'react'
import { headAt, type RunTimeline } from './runTimeline'
import type { View } from './useView'
import css from './drawings.module.css'

const inks = ['', '#57204F', '#57204F', '#6F4B0C']

/** Pictures of the work so far are kept every so many moves, and never more than so many of them. */
const movesApart = 2000
const mostKept = 60

type Place = (context: CanvasRenderingContext2D) => void

/** What is done of a run at a second, and the head. From a kept picture on, only the moves since are drawn. */
export function RunCanvas({
  run,
  second,
  turn,
  view,
  width,
  height,
}: {
  run: RunTimeline
  second: number
  /** -1 where y grows upwards. */
  turn: 1 | -1
  view: View
  width: number
  height: number
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const kept = useRef<HTMLCanvasElement[]>([])
  const apart = Math.max(movesApart, Math.ceil(run.count / mostKept))
  const ratio = window.devicePixelRatio || 1
  const [across, down] = [Math.round(width * ratio), Math.round(height * ratio)]
  const place: Place = (context) =>
    context.setTransform(
      ratio * view.scale,
      0,
      0,
      turn * ratio * view.scale,
      ratio * (width / 2 - view.x * view.scale),
      ratio * (height / 2 - view.y * view.scale),
    )
  const keep = () => {
    const at = kept.current.length
    const picture = document.createElement('canvas')
    picture.width = across
    picture.height = down
    const context = picture.getContext('2d')!
    const before = kept.current[at - 1]
    if (before) context.drawImage(before, 0, 0)
    place(context)
    if (at > 0) trace(context, run, (at - 1) * apart, at * apart, view.scale)
    kept.current.push(picture)
  }

  useEffect(() => {
    kept.current = []
    if (across === 0) return
    // While nobody waits, so that a leap to the end takes no longer than a step.
    let timer: ReturnType<typeof setTimeout>
    const next = () => {
      if (kept.current.length * apart > run.count) return
      keep()
      timer = setTimeout(next)
    }
    timer = setTimeout(next)
    return () => clearTimeout(timer)
  }, [run, view.x, view.y, view.scale, across, down]) // eslint-disable-line react-hooks/exhaustive-deps

  useEffect(() => {
    const context = canvas.current?.getContext('2d')
    if (!context || across === 0) return
    if (context.canvas.width !== across || context.canvas.height !== down)
      Object.assign(context.canvas, { width: across, height: down })
    const head = headAt(run, second)
    const from = Math.floor(head.move / apart)
    while (kept.current.length <= from) keep()
    context.setTransform(1, 0, 0, 1, 0, 0)
    context.clearRect(0, 0, across, down)
    context.drawImage(kept.current[from]!, 0, 0)
    place(context)
    trace(context, run, from * apart, head.move, view.scale, head)
    context.beginPath()
    context.arc(head.x, head.y, 6 / view.scale, 0, 2 * Math.PI)
    context.lineWidth = 2.5 / view.scale
    context.strokeStyle = '#A81E12'
    context.fillStyle = head.what > 0 ? '#A81E12' : '#FBF6EA'
    context.fill()
    context.stroke()
  }, [run, second, view.x, view.y, view.scale, across, down]) // eslint-disable-line react-hooks/exhaustive-deps
  return <canvas ref={canvas} className={css.runlines} aria-hidden="true" />
}

/** Draws moves from one on up to another, and from there to where the head is. */
function trace(
  context: CanvasRenderingContext2D,
  run: RunTimeline,
  from: number,
  to: number,
  scale: number,
  head?: { x: number; y: number; what: number },
) {
  const last = Math.min(to, run.count)
  for (const kind of [3, 2, 1]) {
    context.beginPath()
    let drawing = false
    for (let i = Math.max(1, from); i < last; i++) {
      if (run.what[i] !== kind) {
        drawing = false
        continue
      }
      if (!drawing) context.moveTo(run.xs[i - 1]!, run.ys[i - 1]!)
      context.lineTo(run.xs[i]!, run.ys[i]!)
      drawing = true
    }
    if (head?.what === kind && last > 0) {
      if (!drawing) context.moveTo(run.xs[last - 1]!, run.ys[last - 1]!)
      context.lineTo(head.x, head.y)
    }
    context.strokeStyle = inks[kind]!
    context.lineWidth = (kind === 3 ? 1 : 2.6) / scale
    context.stroke()
  }
}
