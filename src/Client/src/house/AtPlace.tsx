import { useQuery } from '@tanstack/react-query'
import { useRef, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { answer, client, fileBody, type Schemas } from '../kit/api'
import { usePress } from '../kit/Act'
import { Failure, fieldErrors, TextField } from '../kit/parts'
import { useSession } from '../kit/session'

/** For a keeper: what stands at a machine for whoever comes, the code that is scanned and the papers. */
export function AtPlace({ machine }: { machine: Schemas['MachineResponse'] }) {
  return (
    <details>
      <summary>Code and papers at the machine</summary>
      <Code machine={machine} />
      <Papers machine={machine} />
    </details>
  )
}

function Code({ machine }: { machine: Schemas['MachineResponse'] }) {
  const { time } = useSession()
  const params = { path: { id: machine.id } }
  const code = useQuery({
    queryKey: ['live', 'place-code', machine.id],
    queryFn: ({ signal }) => answer(client.GET('/api/machines/{id}/place-code', { params, signal })),
  })
  const make = usePress(() => answer(client.POST('/api/machines/{id}/place-code', { params })))
  const takeOff = usePress(() => answer(client.DELETE('/api/machines/{id}/place-code', { params })))
  const has = code.data?.code
  return (
    <>
      <p>
        {has
          ? `Whoever runs ${machine.name} from a phone scans ${has} before each start, since ${time.date(code.data!.madeAt!)}. `
          : `Without a screen or a controller at ${machine.name}, a code on a card says that whoever starts stands there. `}
        {!has && 'None is asked for yet. '}
        {has && <a href={`/api/machines/${machine.id}/place-code.pdf`}>Print it (PDF)</a>}
      </p>
      <Failure error={code.error ?? make.error ?? takeOff.error} />
      <Button variant="outline-primary" size="sm" disabled={make.isPending} onClick={() => make.mutate()}>
        {has ? 'Make a new one' : 'Make a code'}
      </Button>{' '}
      {has && (
        <button type="button" className="quietlink" disabled={takeOff.isPending} onClick={() => takeOff.mutate()}>
          Ask for none
        </button>
      )}
    </>
  )
}

function Papers({ machine }: { machine: Schemas['MachineResponse'] }) {
  const id = machine.id
  const all = useQuery({
    queryKey: ['live', 'papers', id],
    queryFn: async ({ signal }) =>
      (await answer(client.GET('/api/machines/{id}/papers', { params: { path: { id } }, signal }))).items,
  })
  const [name, setName] = useState('')
  const input = useRef<HTMLInputElement>(null)
  const add = usePress((file: File) =>
    answer(client.POST('/api/machines/{id}/papers', { params: { path: { id } }, ...fileBody(file, { name }) })),
  )
  const added = () => {
    setName('')
    if (input.current) input.current.value = ''
  }
  const remove = usePress((paper: string) =>
    answer(client.DELETE('/api/machines/{id}/papers/{paper}', { params: { path: { id, paper } } })),
  )
  const errors = fieldErrors(add.error)
  return (
    <>
      <ul className="plainlist mt-3">
        {all.data?.map((p) => (
          <li key={p.id}>
            <a href={`/at/${id}/papers/${p.id}`}>{p.name}</a>{' '}
            <button
              type="button"
              className="quietlink"
              aria-label={`Take it away: ${p.name}`}
              disabled={remove.isPending}
              onClick={() => remove.mutate(p.id)}
            >
              Take it away
            </button>
          </li>
        ))}
      </ul>
      <TextField
        id={`paper-name-${id}`}
        label="What the paper is"
        placeholder="Quick guide"
        value={name}
        put={setName}
        error={errors['name']}
      />
      <label className="form-label" htmlFor={`paper-${id}`}>
        Add it: a PDF. Everybody at the machine may open it
      </label>
      <input
        ref={input}
        id={`paper-${id}`}
        className="form-control"
        type="file"
        accept="application/pdf"
        disabled={add.isPending}
        onChange={(event) => event.target.files?.[0] && add.mutate(event.target.files[0], { onSuccess: added })}
      />
      <Failure error={add.error ?? remove.error ?? all.error} />
    </>
  )
}
