import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { answer, client } from '../kit/api'
import { Failure, fieldErrors, TextField } from '../kit/parts'
import type { Station } from './useStation'
import css from './station.module.css'

/** For a keeper, signed in on the very screen: it stands here from now on, and nobody is signed in on it. */
export function EnrolScreen({ station }: { station: Station }) {
  const queries = useQueryClient()
  const [name, setName] = useState(`tablet at ${station.machineName}`)
  const enrol = useMutation({
    mutationFn: async () => {
      await answer(
        client.POST('/api/stations/{machine}/devices', {
          params: { path: { machine: station.machineId } },
          body: { name },
        }),
      )
      await answer(client.POST('/api/sign-out'))
    },
    onSuccess: () => queries.resetQueries(),
  })
  const errors = fieldErrors(enrol.error)
  return (
    <details>
      <summary>This screen stands at {station.machineName}, for everybody</summary>
      <form
        onSubmit={(event) => {
          event.preventDefault()
          enrol.mutate()
        }}
      >
        <TextField id="screen" label="Which screen it is" value={name} put={setName} error={errors['name']} />
        <button type="submit" className={css.other} disabled={enrol.isPending}>
          Enrol it, and sign me out here
        </button>
        {!errors['name'] && <Failure error={enrol.error} />}
      </form>
      <p className={css.quiet}>
        Whoever taps in here by fob or tap-in code runs the machine from this screen. It is revoked under Machines.
      </p>
    </details>
  )
}
