import type { ReactNode } from 'react'
import type { Schemas } from '../kit/api'
import { lengthIn, useUnit } from '../kit/units'
import drawingsCss from './drawings.module.css'

/** Copies on their sheet, each as its box, and what stays whole. */
export function Layout({
  piece,
  part,
  mirror,
  children,
}: {
  piece: Schemas['PieceResponse']
  part: Schemas['PieceList']
  mirror: boolean
  children: ReactNode
}) {
  const unit = useUnit()
  const [width, height] = piece.turned ? [part.heightMm, part.widthMm] : [part.widthMm, part.heightMm]
  const says = [piece.turned && 'turned', mirror && 'mirrored'].filter(Boolean).join(' and ')
  return (
    <figure className={drawingsCss.layout}>
      <svg
        viewBox={`-2 -2 ${piece.widthMm + 4} ${piece.heightMm + 4}`}
        role="img"
        aria-label={`${piece.copies} on ${piece.tag}${says && `, ${says}`}`}
      >
        <rect width={piece.widthMm} height={piece.heightMm} className={drawingsCss.piece} />
        {piece.at.map((at, i) => (
          <rect
            key={i}
            x={at.x}
            y={piece.heightMm - at.y - height}
            width={width}
            height={height}
            className={drawingsCss.copy}
          />
        ))}
      </svg>
      <figcaption>
        {piece.copies} {piece.copies === 1 ? 'copy' : 'copies'} on {piece.tag}
        {says && `, ${says}`}. Left whole: {lengthIn(unit, piece.leftWidthMm)} x {lengthIn(unit, piece.leftHeightMm)}{' '}
        {unit}. A held edge of {lengthIn(unit, part.edgeMm)} {unit} is kept free. {children}
      </figcaption>
    </figure>
  )
}
