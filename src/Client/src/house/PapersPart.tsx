import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { MachineField } from '../kit/MachineField'
import { Failure, fieldErrors, Loading, RunOn, SelectField, TextField } from '../kit/parts'
import { hasRole, useMachines, useSession } from '../kit/session'
import { papersQuery } from './houseQueries'

type Papers = Schemas['HousePaperList']
type Paper = Schemas['HousePaperResponse']
type Kind = Paper['kind']

/** What an inspector asks for, each with its day and the next one; what nobody has entered stands first. */
export function PapersPart() {
  const { me } = useSession()
  const papers = useQuery(papersQuery)
  const keeper = hasRole(me, 'keeper')
  return (
    <section>
      <RunOn title="What an inspector asks for" after="each with its day, and the next one" />
      {papers.isPending && <Loading what="the papers" />}
      <Failure error={papers.error} retry={() => void papers.refetch()} />
      {papers.data && <Current papers={papers.data} />}
      {papers.data && keeper && <Enter kinds={papers.data.kinds} />}
      <p className="small quiet mt-3">
        These stand beside what the house measures itself, and none takes its place. Which are wanted, and how often, is
        for local rules, the insurer and the fire officer to say.
      </p>
    </section>
  )
}

function Current({ papers }: { papers: Papers }) {
  const { time } = useSession()
  const machines = useMachines()
  const of = (machineId: string | null | undefined) =>
    machineId ? `, ${machines.data?.find((m) => m.id === machineId)?.name ?? machineId}` : ''
  const name = (kind: Kind) => papers.kinds.find((k) => k.kind === kind)?.name ?? kind
  const day = (at: string) => time.date(`${at}T12:00:00Z`)
  const old = papers.items.filter((p) => !p.current)
  return (
    <>
      {papers.missing.length > 0 && (
        <Fold title={`Nobody has entered ${papers.missing.length} of them yet`}>
          <ul className="mb-2">
            {papers.missing.map((m) => (
              <li key={`${m.kind} ${m.machineId ?? ''}`}>
                {name(m.kind)}
                {of(m.machineId)}
              </li>
            ))}
          </ul>
        </Fold>
      )}
      {papers.items.some((p) => p.current) && (
        <table className="plain mt-2">
          <thead>
            <tr>
              <th scope="col">Paper</th>
              <th scope="col">Done</th>
              <th scope="col">Next</th>
              <th scope="col">Who</th>
              <th scope="col">What it says</th>
            </tr>
          </thead>
          <tbody>
            {papers.items
              .filter((p) => p.current)
              .map((p) => (
                <tr key={p.id}>
                  <td>
                    <b>
                      {name(p.kind)}
                      {of(p.machineId)}
                    </b>
                  </td>
                  <td>{day(p.on!)}</td>
                  <td>{p.next ? p.over ? <b>was due {day(p.next)}</b> : day(p.next) : 'at a change'}</td>
                  <td>{p.by}</td>
                  <td>{p.says}</td>
                </tr>
              ))}
          </tbody>
        </table>
      )}
      {old.length > 0 && (
        <Fold title={`Of before: ${old.length}`}>
          <ul className="plainlist small">
            {old.map((p) => (
              <li key={p.id}>
                {day(p.on!)}, {name(p.kind)}
                {of(p.machineId)}: {p.by}. {p.says} Entered by {p.recordedBy}.
              </li>
            ))}
          </ul>
        </Fold>
      )}
    </>
  )
}

const today = (iso: (at: number) => string, now: () => number) => iso(now())

function Enter({ kinds }: { kinds: Papers['kinds'] }) {
  const { time, now } = useSession()
  const [kind, setKind] = useState<Kind>(kinds[0]!.kind)
  const [machineId, setMachine] = useState('')
  const [onDay, setOn] = useState(() => today(time.iso, now))
  const [nextDay, setNext] = useState('')
  const [by, setBy] = useState('')
  const [says, setSays] = useState('')
  const [kept, setKept] = useState(false)
  const form = kinds.find((k) => k.kind === kind)!
  const act = useAction(
    () =>
      answer(
        client.POST('/api/house/papers', {
          body: {
            kind,
            machineId: form.ofMachine ? machineId || null : null,
            onDay,
            nextDay: nextDay || null,
            by,
            says,
          },
        }),
      ),
    () => {
      setBy('')
      setSays('')
      setNext('')
      setKept(true)
    },
  )
  const errors = fieldErrors(act.error)
  return (
    <details className="fold" data-enter>
      <summary>Enter one</summary>
      <Act
        act={act}
        button="Enter it"
        fields={['kind', 'machineId', 'onDay', 'nextDay', 'by', 'says']}
        done={kept && !act.error ? 'Entered.' : undefined}
      >
        <SelectField
          id="paper-kind"
          label="Paper"
          error={errors.kind}
          value={kind}
          put={(k) => {
            setKind(k)
            setKept(false)
          }}
          options={kinds.map((k) => [k.kind, k.name] as const)}
        />
        {form.ofMachine && (
          <MachineField
            id="paper-machine"
            label="Of which machine"
            first="Choose"
            error={errors.machineId}
            value={machineId}
            put={setMachine}
          />
        )}
        <TextField id="paper-on" label="Done on" type="date" error={errors.onDay} value={onDay} put={setOn} />
        <TextField
          id="paper-next"
          label={
            form.months == null
              ? `Next: ${form.basis}`
              : `Next: usually after ${form.months} ${form.months === 1 ? 'month' : 'months'}; ${form.basis}`
          }
          type="date"
          error={errors.nextDay}
          value={nextDay}
          put={setNext}
        />
        <TextField id="paper-by" label={form.by} error={errors.by} value={by} put={setBy} />
        <TextField id="paper-says" label={form.says} rows={2} error={errors.says} value={says} put={setSays} />
      </Act>
    </details>
  )
}
