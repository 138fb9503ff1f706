import { useEffect, useMemo, useRef } from 'react'
import type { Schemas } from '../kit/api'
import type { SeenPicture } from './usePictures'
import type { View } from './useView'
import drawingsCss from './drawings.module.css'

const dash: Record<Schemas['StrokeMeaning'], number[]> = {
  cut: [],
  score: [9, 4, 2, 4],
  engrave: [2, 3],
  ignore: [1, 6],
  unknown: [4, 4],
}

const ink = { cut: '#24121F', score: '#57204F', engrave: '#57204F', ignore: '#8A7A86', unknown: '#A81E12' }

/** How long the picture of before is moved about before the lines are drawn anew. */
const restMs = 90

interface Drawn {
  lines: { line: Schemas['LineResponse']; path: Path2D }[]
  pictures: SeenPicture[]
  page: { width: number; height: number } | undefined
  upwards: boolean
}

function draw(target: CanvasRenderingContext2D, drawn: Drawn, view: View, width: number, height: number) {
  const ratio = target.canvas.width / width
  target.setTransform(1, 0, 0, 1, 0, 0)
  target.clearRect(0, 0, target.canvas.width, target.canvas.height)
  const place = () =>
    target.setTransform(
      ratio * view.scale,
      0,
      0,
      ratio * view.scale,
      ratio * (width / 2 - view.x * view.scale),
      ratio * (height / 2 - view.y * view.scale),
    )
  place()
  if (drawn.page) {
    target.fillStyle = '#FBF6EA'
    target.strokeStyle = '#CDBB9B'
    target.lineWidth = 1 / view.scale
    target.fillRect(0, 0, drawn.page.width, drawn.page.height)
    target.strokeRect(0, 0, drawn.page.width, drawn.page.height)
  }
  for (const { image, place } of drawn.pictures) {
    const [a, b, c, d, e, f] = place as [number, number, number, number, number, number]
    target.save()
    target.transform(a, b, c, d, e, f)
    target.drawImage(image, 0, 0, 1, 1)
    target.restore()
  }
  if (drawn.upwards) target.scale(1, -1)
  for (const { line, path } of drawn.lines) {
    target.setLineDash([])
    if (line.filled) {
      target.fillStyle = 'rgba(111, 75, 12, 0.28)'
      target.fill(path, 'evenodd')
      target.strokeStyle = '#6F4B0C'
      target.lineWidth = 1 / view.scale
    } else {
      target.strokeStyle = ink[line.operation]
      target.lineWidth = (line.operation === 'cut' ? 1.6 : 1.3) / view.scale
      target.setLineDash(dash[line.operation].map((mm) => mm / view.scale))
    }
    target.stroke(path)
  }
}

/**
 * The lines of a drawing. While the view moves, the picture of before is moved with it, which takes the same time however
 * many lines there are;
 * once it rests, they are drawn.
 */
export function LinesCanvas({
  lines,
  pictures,
  page,
  upwards,
  view,
  width,
  height,
}: {
  lines: Schemas['LineResponse'][]
  pictures: SeenPicture[]
  page: { width: number; height: number } | undefined
  upwards: boolean
  view: View
  width: number
  height: number
}) {
  const canvas = useRef<HTMLCanvasElement>(null)
  const before = useRef<{ picture: HTMLCanvasElement; view: View; drawn: Drawn }>(undefined)
  const pageWidth = page?.width
  const pageHeight = page?.height
  const drawn = useMemo<Drawn>(
    () => ({
      lines: lines.map((line) => ({ line, path: new Path2D(line.path) })),
      pictures,
      page: pageWidth && pageHeight ? { width: pageWidth, height: pageHeight } : undefined,
      upwards,
    }),
    [lines, pictures, pageWidth, pageHeight, upwards],
  )
  useEffect(() => {
    const target = canvas.current?.getContext('2d')
    if (!target || width === 0) return
    const ratio = window.devicePixelRatio || 1
    const [across, down] = [Math.round(width * ratio), Math.round(height * ratio)]
    const anew = () => {
      const picture = document.createElement('canvas')
      picture.width = across
      picture.height = down
      draw(picture.getContext('2d')!, drawn, view, width, height)
      before.current = { picture, view, drawn }
      copy(view, picture)
    }
    const copy = (from: View, picture: HTMLCanvasElement) => {
      if (target.canvas.width !== across || target.canvas.height !== down) {
        target.canvas.width = across
        target.canvas.height = down
      }
      const by = view.scale / from.scale
      target.setTransform(1, 0, 0, 1, 0, 0)
      target.clearRect(0, 0, across, down)
      target.setTransform(
        by,
        0,
        0,
        by,
        ratio * (width / 2 + (from.x - view.x) * view.scale - (by * width) / 2),
        ratio * (height / 2 + (from.y - view.y) * view.scale - (by * height) / 2),
      )
      target.drawImage(picture, 0, 0)
    }
    const old = before.current
    if (!old || old.drawn !== drawn || old.picture.width !== across || old.picture.height !== down) {
      anew()
      return
    }
    copy(old.view, old.picture)
    const timer = setTimeout(anew, restMs)
    return () => clearTimeout(timer)
  }, [drawn, view.x, view.y, view.scale, width, height]) // eslint-disable-line react-hooks/exhaustive-deps
  return <canvas ref={canvas} className={drawingsCss.sheetlines} aria-hidden="true" />
}
