import { useRef } from 'react'
import { useAction } from './Act'
import { Failure } from './parts'

/** Sends one photo at a time. */
export function AddPhoto({ id, send }: { id: string; send: (file: File) => Promise<unknown> }) {
  const input = useRef<HTMLInputElement>(null)
  const add = useAction(send, () => {
    if (input.current) input.current.value = ''
  })
  return (
    <>
      <label className="form-label" htmlFor={id}>
        Add a photo: PNG or JPEG; where it was taken is taken out
      </label>
      <input
        ref={input}
        id={id}
        className="form-control"
        type="file"
        accept="image/png,image/jpeg"
        disabled={add.isPending}
        onChange={(event) => event.target.files?.[0] && add.mutate(event.target.files[0])}
      />
      <Failure error={add.error} />
    </>
  )
}
