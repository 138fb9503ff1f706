import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Button from 'react-bootstrap/Button'
import { useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { MachineField } from '../kit/MachineField'
import { Failure, fieldErrors, RunOn, TextField } from '../kit/parts'
import { useMachines } from '../kit/session'
import { Standing } from '../kit/Standing'
import { Pictures } from './Pictures'
import { standingOfFault } from './standings'
import { symptomsQuery } from './upkeepQueries'
import css from './upkeep.module.css'

type Symptom = Schemas['SymptomResponse']

/** What somebody sees: one tap for it, one for whether what is tried first was all. */
export function Report() {
  const machines = useMachines()
  const symptoms = useQuery(symptomsQuery)
  const [machineId, setMachine] = useState('')
  const [symptom, setSymptom] = useState<Symptom | null>(null)
  const [note, setNote] = useState('')
  const [told, setTold] = useState<Schemas['FaultMade'] | null>(null)
  const machine = machines.data?.find((m) => m.id === machineId)
  const tell = useAction(
    (helped: boolean) =>
      answer(client.POST('/api/faults', { body: { machineId, symptom: symptom?.key, helped, note: note || null } })),
    (made) => {
      setTold(made)
      setSymptom(null)
      setNote('')
    },
  )
  const errors = fieldErrors(tell.error)
  const choose = (s: Symptom) => {
    setTold(null)
    tell.reset()
    setSymptom(s)
  }
  return (
    <section>
      <RunOn title="Report: what do you see?" after="two taps" />
      <MachineField
        id="fault-machine"
        label="At which machine"
        first="Choose"
        error={errors.machineId}
        value={machineId}
        put={setMachine}
      />
      <Failure error={symptoms.error} retry={() => void symptoms.refetch()} />
      {symptom ? (
        <div className={css.tried}>
          <h3>{symptom.seen}</h3>
          {symptom.try && (
            <p>
              <b>First:</b> {symptom.try}
            </p>
          )}
          <TextField
            id="fault-note"
            label={symptom.needsWords ? 'What you see' : 'In your words (may stay empty)'}
            error={errors.note}
            value={note}
            put={setNote}
          />
          <div className={css.taps}>
            {symptom.helped && (
              <Button variant="outline-primary" disabled={tell.isPending} onClick={() => tell.mutate(true)}>
                {symptom.helped}
              </Button>
            )}
            <Button variant="danger" disabled={tell.isPending} onClick={() => tell.mutate(false)}>
              {symptom.helped ? (symptom.needsWords ? 'Yes, or not sure' : 'It is still so') : 'Tell it'}
            </Button>
            <Button variant="outline-primary" onClick={() => setSymptom(null)}>
              Back
            </Button>
          </div>
          {tell.isError && !errors.note && <Failure error={tell.error} />}
        </div>
      ) : (
        <>
          {told && (
            <div role="status" className={css.told}>
              <Standing {...standingOfFault(told.standing)} />
              <p>
                <b>Told, as fault {told.number}.</b> What you may still do: {told.mayDo.join(' ')}
              </p>
              <Pictures of={told.id} name={`fault ${told.number}`} photos={[]} mayAdd />
            </div>
          )}
          <div className={css.symptoms}>
            {symptoms.data?.map((s) => (
              <button
                key={s.key}
                type="button"
                className="btn btn-outline-primary"
                disabled={!machine}
                onClick={() => choose(s)}
              >
                {s.seen}
              </button>
            ))}
          </div>
          {!machine && (
            <p className="small quiet">Choose the machine first. A fire or a person hurt: the emergency card.</p>
          )}
        </>
      )}
    </section>
  )
}
