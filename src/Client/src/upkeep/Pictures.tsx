import { usePress } from '../kit/Act'
import { AddPhoto } from '../kit/AddPhoto'
import { answer, client, fileBody, type Schemas } from '../kit/api'
import { Failure } from '../kit/parts'
import css from './upkeep.module.css'

/** Photos of a fault, or of what was done: for staff, and for whoever took them. */
export function Pictures({
  of,
  name,
  photos,
  mayAdd,
}: {
  of: string
  name: string
  photos: Schemas['UpkeepPhotoResponse'][]
  mayAdd: boolean
}) {
  return (
    <>
      {photos.length > 0 && (
        <div className={css.photos}>
          {photos.map((p, n) => (
            <figure key={p.id}>
              <a href={`/api/upkeep/photos/${p.id}`} target="_blank" rel="noreferrer">
                <img
                  src={`/api/upkeep/photos/${p.id}`}
                  width={p.width}
                  height={p.height}
                  loading="lazy"
                  alt={`Number ${n + 1} of ${name}`}
                />
              </a>
              {p.mine && <TakeOff id={p.id} />}
            </figure>
          ))}
        </div>
      )}
      {mayAdd && (
        <AddPhoto
          id={`photo-of-${of}`}
          send={(file) =>
            answer(client.POST('/api/upkeep/{id}/photos', { params: { path: { id: of } }, ...fileBody(file) }))
          }
        />
      )}
    </>
  )
}

function TakeOff({ id }: { id: string }) {
  const off = usePress(() =>
    answer(client.POST('/api/upkeep/photos/{photo}/remove', { params: { path: { photo: id } } })),
  )
  return (
    <>
      <button type="button" className="quietlink" disabled={off.isPending} onClick={() => off.mutate()}>
        Take it off
      </button>
      <Failure error={off.error} />
    </>
  )
}
