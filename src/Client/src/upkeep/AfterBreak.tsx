import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import Form from 'react-bootstrap/Form'
import { Act, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { fieldErrors, RunOn, TextField } from '../kit/parts'
import { useMachines, useSession } from '../kit/session'
import { numberOf } from './numbers'
import { breaksQuery } from './upkeepQueries'

const looks = [
  ['interlocks', 'Interlocks: lid open a finger, a hand, half; the beam gone at once each time'],
  ['outlet', 'Outlet of the duct, or of the filter: free, no nest, leaves or ice'],
  ['kit', 'Fire kit: there, in date and whole'],
] as const
type Look = (typeof looks)[number][0]

/** Machines that stood for long: looked at before they run again. */
export function AfterBreak() {
  const { data } = useQuery(breaksQuery)
  const machines = useMachines()
  const stood = (data ?? []).flatMap((s) => {
    const machine = machines.data?.find((m) => m.id === s.machineId)
    return machine ? [{ stood: s, machine }] : []
  })
  if (stood.length === 0) return null
  return (
    <section>
      <RunOn title="After a break" after="looked at before their first run" />
      {stood.map((s) => (
        <Stood key={s.machine.id} {...s} />
      ))}
    </section>
  )
}

function Stood({ stood, machine }: { stood: Schemas['StoodResponse']; machine: Schemas['MachineResponse'] }) {
  const { time } = useSession()
  const [open, setOpen] = useState(false)
  const [looked, setLooked] = useState<Look[]>([])
  const [airflow, setAirflow] = useState('')
  const [coolant, setCoolant] = useState('')
  const act = useAction(() =>
    answer(
      client.POST('/api/machines/{id}/after-break', {
        params: { path: { id: machine.id } },
        body: {
          interlocks: looked.includes('interlocks'),
          outlet: looked.includes('outlet'),
          kit: looked.includes('kit'),
          airflowM3PerHour: numberOf(airflow),
          coolantC: numberOf(coolant),
        },
      }),
    ),
  )
  const errors = fieldErrors(act.error)
  return (
    <div className="mb-2">
      <p className="mb-1">
        Nothing has run on <b>{machine.name}</b> since {time.date(stood.usedAt)}.{' '}
        {stood.mayDo ? (
          !open && (
            <button type="button" className="quietlink" onClick={() => setOpen(true)}>
              Look at it now
            </button>
          )
        ) : (
          <span className="quiet">A trainer of it, a steward or its repairer looks at it first.</span>
        )}
      </p>
      {open && (
        <Act
          act={act}
          button={`${machine.name} is in order`}
          fields={['airflowM3PerHour', 'coolantC', 'interlocks', 'outlet', 'kit']}
        >
          {looks.map(([look, label]) => (
            <div key={look}>
              <Form.Check
                id={`break-${machine.id}-${look}`}
                label={label}
                checked={looked.includes(look)}
                onChange={(e) => setLooked(e.target.checked ? [...looked, look] : looked.filter((l) => l !== look))}
              />
              {errors[look] && <p className="invalid-feedback">{errors[look].join(' ')}</p>}
            </div>
          ))}
          <TextField
            id={`break-airflow-${machine.id}`}
            label="Airflow read, m³/h"
            error={errors.airflowM3PerHour}
            inputMode="decimal"
            value={airflow}
            put={setAirflow}
          />
          {machine.waterCooled && (
            <TextField
              id={`break-coolant-${machine.id}`}
              label="Coolant read, °C, once it has run round"
              error={errors.coolantC}
              inputMode="decimal"
              value={coolant}
              put={setCoolant}
            />
          )}
          <p className="small quiet">
            What is not in order is a fault: report it below, and the machine waits for its repairer.
          </p>
        </Act>
      )}
    </div>
  )
}
