import { useQuery } from '@tanstack/react-query'
import { answer, client } from '../kit/api'
import { drawingsQuery, useMachines } from '../kit/session'
import { lengthIn, useUnit } from '../kit/units'
import { Blank, Pick, Write } from './Blank'
import { notANumber, type SentenceProps } from './blankProps'

export function MachineBlank({ state, change, errors, shut }: SentenceProps) {
  const machines = useMachines()
  const unit = useUnit()
  const machine = machines.data?.find((m) => m.id === state.machine)
  return (
    <>
      <Blank
        name="Machine"
        text={machine?.name ?? null}
        empty="which machine"
        bad={shut.has('machine')}
        error={errors.machineId}
      >
        {(close) => (
          <Pick
            label="Find a machine"
            value={state.machine}
            options={(machines.data ?? []).map((m) => ({
              value: m.id,
              label: m.name,
              note: `${m.powerW} W, ${lengthIn(unit, m.bedWidthMm)} x ${lengthIn(unit, m.bedHeightMm)} ${unit}`,
              standing: m.stop ? 'shut' : 'clear',
              standingWord: m.stop ? 'stopped' : 'in service',
            }))}
            onPick={(id) => {
              change({ machine: id, fixture: null, supervisor: null })
              close()
            }}
          />
        )}
      </Blank>
      {machine && machine.fixtures.length > 0 && (
        <>
          {' '}
          <Blank
            name="Fixture"
            text={state.fixture ? `with the ${state.fixture}` : 'flat bed'}
            empty="flat bed"
            error={errors.fixture}
          >
            {(close) => (
              <Pick
                label="Find a fixture"
                value={state.fixture}
                options={[{ value: '', label: 'Flat bed' }, ...machine.fixtures.map((f) => ({ value: f, label: f }))]}
                onPick={(fixture) => {
                  change({ fixture: fixture || null })
                  close()
                }}
              />
            )}
          </Blank>
        </>
      )}
    </>
  )
}

export function DrawingBlank({ state, change, errors, shut, nth = '' }: SentenceProps) {
  const drawings = useQuery(drawingsQuery)
  const unit = useUnit()
  const drawing = drawings.data?.find((d) => d.id === state.drawing)
  return (
    <>
      <Blank
        name={`Drawing${nth}`}
        text={drawing?.name ?? (state.drawing ? 'a drawing' : 'no drawing')}
        empty="no drawing"
        bad={shut.has('drawing')}
        error={errors.drawingId}
      >
        {(close) => (
          <Pick
            label="Find a drawing"
            value={state.drawing}
            options={[
              { value: '', label: 'No drawing', note: 'nothing is checked' },
              ...(drawings.data ?? []).map((d) => ({
                value: d.id,
                label: d.name,
                note: `${lengthIn(unit, d.widthMm)} x ${lengthIn(unit, d.heightMm)} ${unit}, ${d.operations.join(', ')}`,
              })),
            ]}
            onPick={(id) => {
              change({ drawing: id || null })
              close()
            }}
          />
        )}
      </Blank>
      {!state.drawing && (
        <>
          {' '}
          running{' '}
          <Blank
            name={`Run time${nth}`}
            text={state.run ? `${state.run} min` : null}
            empty="how long"
            error={errors.runMinutes}
          >
            {(close) => (
              <>
                <Write
                  label="Minutes of beam, once through"
                  value={state.run ?? ''}
                  refuse={notANumber}
                  help="Your own figure; a drawing brings its own. Left empty it is not known, and a steward is asked."
                  onWrite={(text) => {
                    change({ run: text || null, minutes: null })
                    close()
                  }}
                />
                <TypicalRuns
                  pick={(minutes) => {
                    change({ run: String(minutes), minutes: null })
                    close()
                  }}
                />
              </>
            )}
          </Blank>
        </>
      )}
    </>
  )
}

/** Runs that many have made, for whoever cannot tell. */
function TypicalRuns({ pick }: { pick: (minutes: number) => void }) {
  const runs = useQuery({
    queryKey: ['typicalRuns'],
    queryFn: async ({ signal }) => (await answer(client.GET('/api/jobs/typical', { signal }))).items,
    staleTime: Infinity,
  })
  if (!runs.data) return null
  return (
    <p className="small mt-2 mb-0">
      Or as others took:{' '}
      {runs.data.map((run) => (
        <button key={run.what} type="button" className="quietlink me-3" onClick={() => pick(run.minutes)}>
          {run.what}, {run.minutes} min
        </button>
      ))}
    </p>
  )
}
