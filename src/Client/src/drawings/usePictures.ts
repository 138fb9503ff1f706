import { useEffect, useState } from 'react'
import type { Schemas } from '../kit/api'

export interface SeenPicture {
  image: HTMLImageElement
  place: number[]
}

/** The pixel pictures of a drawing, as far as they have come. */
export function usePictures(id: string, pictures: Schemas['PictureResponse'][]): SeenPicture[] {
  const [images, setImages] = useState<Record<number, HTMLImageElement>>({})
  // Copies share a file.
  const wanted = [...new Set(pictures.map((p) => p.number))].join(' ')
  useEffect(() => {
    let gone = false
    for (const number of wanted === '' ? [] : wanted.split(' ').map(Number)) {
      const image = new Image()
      image.onload = () => {
        if (!gone) setImages((now) => ({ ...now, [number]: image }))
      }
      image.src = `/api/drawings/${id}/pictures/${number}`
    }
    return () => {
      gone = true
    }
  }, [id, wanted])
  return pictures.flatMap((p) => (images[p.number] ? [{ image: images[p.number]!, place: p.place }] : []))
}
