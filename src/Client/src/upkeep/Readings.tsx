import { useState } from 'react'
import { Act, useAction } from '../kit/Act'
import { answer, client } from '../kit/api'
import { MachineField } from '../kit/MachineField'
import { fieldErrors, RunOn, TextField } from '../kit/parts'
import { useMachines } from '../kit/session'
import { numberOf } from './numbers'

/** What somebody read off the gauges of a machine. */
export function Readings() {
  const machines = useMachines()
  const [machineId, setMachine] = useState('')
  const [airflow, setAirflow] = useState('')
  const [coolant, setCoolant] = useState('')
  const [room, setRoom] = useState('')
  const [kept, setKept] = useState(false)
  const machine = machines.data?.find((m) => m.id === machineId)
  const act = useAction(
    () =>
      answer(
        client.POST('/api/machines/{id}/readings', {
          params: { path: { id: machineId } },
          body: { airflowM3PerHour: numberOf(airflow), coolantC: numberOf(coolant), roomC: numberOf(room) },
        }),
      ),
    () => {
      setAirflow('')
      setCoolant('')
      setRoom('')
      setKept(true)
    },
  )
  const errors = fieldErrors(act.error)
  return (
    <section>
      <RunOn title="Write down a reading" />
      <MachineField
        id="reading-machine"
        label="Machine that was read"
        first="Choose"
        value={machineId}
        put={(id) => {
          setMachine(id)
          setKept(false)
        }}
      />
      {machine && (
        <Act
          act={act}
          button="Keep the reading"
          fields={['airflowM3PerHour', 'coolantC', 'roomC']}
          done={kept && !act.isError ? 'It is kept.' : undefined}
        >
          <TextField
            id="reading-airflow"
            label={`Airflow, m³/h (${machine.airflowM3PerHour > 0 ? `${machine.airflowM3PerHour} at commissioning` : 'never measured'})`}
            error={errors.airflowM3PerHour}
            inputMode="decimal"
            value={airflow}
            put={setAirflow}
          />
          {machine.waterCooled && (
            <TextField
              id="reading-coolant"
              label="Coolant, °C"
              error={errors.coolantC}
              inputMode="decimal"
              value={coolant}
              put={setCoolant}
            />
          )}
          <TextField
            id="reading-room"
            label="Room, °C"
            error={errors.roomC}
            inputMode="decimal"
            value={room}
            put={setRoom}
          />
          <p className="small quiet">
            Airflow is read with the extraction on, the lid shut and the bed empty, as at commissioning. It counts until
            the next reading; temperatures count for four hours.
          </p>
        </Act>
      )}
    </section>
  )
}
