import { capital } from '../kit/names'
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { useLocation } from 'react-router'
import { answer, client, type Schemas } from '../kit/api'
import { Failure, Field, fieldErrors, Loading, RunOn, TextField } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { WhatIf } from '../reports'
import { SheetForm } from '../kit/SheetForm'
import { asWritten, toSheet, type Sheet } from '../kit/sheetValues'
import { formsQuery, rulesQuery } from './houseQueries'

type Version = Schemas['RulesVersionResponse']

/** House rules as dated versions: what holds, what held, what is to come; a keeper changes them with a reason. */
export function RulesPart() {
  const { me } = useSession()
  const keeper = hasRole(me, 'keeper')
  const versions = useQuery(rulesQuery)
  const forms = useQuery(formsQuery)
  const [changing, setChanging] = useState(false)
  if (versions.isPending || forms.isPending) return <Loading what="the rules" />
  if (!versions.data || !forms.data)
    return <Failure error={versions.error ?? forms.error} retry={() => void versions.refetch()} />
  const holds = versions.data.find((v) => v.state === 'holds')
  return (
    <>
      <Versions versions={versions.data} />
      {keeper && !changing && (
        <Button className="mt-2" variant="outline-primary" onClick={() => setChanging(true)}>
          Change the rules
        </Button>
      )}
      {changing && (
        <Change
          fields={forms.data.rules}
          packs={forms.data.packs}
          start={holds ?? versions.data.at(-1)!}
          close={() => setChanging(false)}
        />
      )}
      {!changing && holds && <Read fields={forms.data.rules} version={holds} />}
    </>
  )
}

function Versions({ versions }: { versions: Version[] }) {
  const { time } = useSession()
  const [pair, setPair] = useState<[string, string] | null>(null)
  const differences = useQuery({
    queryKey: ['live', 'house', 'rules', 'compare', pair],
    enabled: pair !== null,
    queryFn: async ({ signal }) =>
      (
        await answer(
          client.GET('/api/house/rules/compare', { params: { query: { before: pair![0], after: pair![1] } }, signal }),
        )
      ).items,
  })
  const name = (v: Version) =>
    `${time.moment(v.from)}${v.state === 'scheduled' ? ', to come' : v.state === 'holds' ? ', in force now' : ''}`
  return (
    <section className="mt-4">
      <RunOn title="Versions" after={versions.length} />
      <ol className="plainlist" reversed>
        {[...versions].reverse().map((v) => (
          <li key={v.id}>
            <b>From {name(v)}</b>
            {v.until && `, to ${time.moment(v.until)}`}: {v.reason}
            <Differences items={v.changes} />
          </li>
        ))}
      </ol>
      {versions.length > 1 && (
        <div className="inlineform">
          {(['before', 'after'] as const).map((side, i) => (
            <Field key={side} id={`compare-${side}`} label={i === 0 ? 'Compare' : 'with'}>
              <Form.Select
                id={`compare-${side}`}
                value={pair?.[i] ?? ''}
                onChange={(e) =>
                  setPair(
                    i === 0
                      ? [e.target.value, pair?.[1] ?? versions.at(-1)!.id]
                      : [pair?.[0] ?? versions[0]!.id, e.target.value],
                  )
                }
              >
                {!pair && <option value="">choose a version</option>}
                {versions.map((v) => (
                  <option key={v.id} value={v.id}>
                    {name(v)}
                  </option>
                ))}
              </Form.Select>
            </Field>
          ))}
        </div>
      )}
      {pair &&
        differences.data &&
        (differences.data.length === 0 ? <p>No difference.</p> : <Differences items={differences.data} />)}
    </section>
  )
}

function Differences({ items }: { items: Schemas['RuleDifference'][] }) {
  if (items.length === 0) return null
  return (
    <ul className="small">
      {items.map((d) => (
        <li key={d.key}>
          {d.label}: {d.before} to <b>{d.after}</b> {d.unit}
        </li>
      ))}
    </ul>
  )
}

function Read({ fields, version }: { fields: Schemas['FormField'][]; version: Version }) {
  const rules = version.rules as unknown as Record<string, unknown>
  const { hash } = useLocation()
  // A reason of the gate leads to the rule that says so.
  useEffect(() => {
    if (hash) document.getElementById(hash.slice(1))?.scrollIntoView({ block: 'center' })
  }, [hash])
  const say = (field: Schemas['FormField']) => {
    const value = rules[field.key]
    if (field.kind === 'flag') return value ? 'yes' : 'no'
    if (field.kind === 'choice') return field.choices?.find((c) => c.value === value)?.text ?? String(value)
    if (field.kind === 'hours') return weekWords(version.rules.hours)
    if (field.kind === 'colours')
      return Object.entries(version.rules.colours.strokes)
        .map(([colour, meaning]) => `${colour} ${meaning}`)
        .join(' · ')
    return `${asWritten(value)}${field.unit ? ` ${field.unit}` : ''}`
  }
  const groups = [...new Set(fields.map((f) => f.group))]
  return (
    <div className="rulesread">
      {groups.map((group) => (
        <section key={group} className="sheetgroup">
          <RunOn title={group} />
          <table className="plain">
            <tbody>
              {fields
                .filter((f) => f.group === group)
                .map((f) => (
                  <tr key={f.key} id={`rule-${f.key}`} className={hash === `#rule-${f.key}` ? 'meant' : undefined}>
                    <td className="rulename">{f.label}</td>
                    <td>{say(f)}</td>
                  </tr>
                ))}
            </tbody>
          </table>
        </section>
      ))}
    </div>
  )
}

/** Opening hours in few words: days in a row with the same hours stand together. */
function weekWords(hours: Version['rules']['hours']) {
  const runs: { first: string; last: string; open: string }[] = []
  for (const d of hours) {
    const open = d.opens === d.closes ? 'closed' : `${d.opens.slice(0, 5)} to ${d.closes.slice(0, 5)}`
    const day = capital(d.day)
    const before = runs.at(-1)
    if (before?.open === open) before.last = day
    else runs.push({ first: day, last: day, open })
  }
  return runs.map((r) => `${r.first}${r.last === r.first ? '' : ` to ${r.last}`} ${r.open}`).join(' · ')
}

/** What somebody changed so far: the rest stays as it is. */
const differing = (sheet: Sheet, before: Sheet) =>
  Object.fromEntries(
    Object.entries(sheet).filter(([key, value]) => JSON.stringify(value) !== JSON.stringify(before[key])),
  )

function Change({
  fields,
  packs,
  start,
  close,
}: {
  fields: Schemas['FormField'][]
  packs: Schemas['PackResponse'][]
  start: Version
  close: () => void
}) {
  const queries = useQueryClient()
  const [sheet, setSheet] = useState<Sheet>(() => toSheet(fields, start.rules))
  const [reason, setReason] = useState('')
  const [day, setDay] = useState('')
  const pack = useMutation({
    mutationFn: (id: string) => answer(client.GET('/api/house/packs/{pack}', { params: { path: { pack: id } } })),
    onSuccess: (rules) => setSheet({ ...toSheet(fields, rules), agreement: sheet.agreement!, colours: sheet.colours! }),
  })
  const save = useMutation({
    mutationFn: async () => {
      // The server says when a day begins here.
      const from = day
        ? (await answer(client.GET('/api/house/day', { params: { query: { date: day } } }))).starts
        : undefined
      return answer(client.POST('/api/house/rules', { body: { fields: sheet as never, reason, from } }))
    },
    onSuccess: async () => {
      await queries.invalidateQueries({ queryKey: ['live'] })
      await queries.invalidateQueries({ queryKey: ['house'] })
      close()
    },
  })
  const errors = fieldErrors(save.error)
  return (
    <Form
      noValidate
      aria-label="Change the rules"
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        save.mutate()
      }}
    >
      <p className="mt-3">
        Start again from a pack:{' '}
        {packs.map((p) => (
          <Button
            key={p.id}
            size="sm"
            variant="outline-primary"
            className="me-2"
            title={p.for}
            onClick={() => pack.mutate(p.id)}
          >
            {p.name}
          </Button>
        ))}
      </p>
      <SheetForm fields={fields} sheet={sheet} change={setSheet} errors={errors} prefix="rules" />
      <Failure error={save.error} />
      <div className="sheetfoot">
        <TextField id="rules-reason" label="Why" error={errors.reason} value={reason} put={setReason} />
        <TextField
          id="rules-from"
          label="In force from (empty: now)"
          error={errors.from}
          type="date"
          value={day}
          put={setDay}
        />
        <Button type="submit" disabled={save.isPending}>
          {day ? 'Schedule the change' : 'Change the rules now'}
        </Button>
        <Button variant="outline-primary" onClick={close}>
          Cancel
        </Button>
      </div>
      <WhatIf rules={differing(sheet, toSheet(fields, start.rules))} />
      <p className="small quiet">
        Bookings to come are checked again within a minute. Local code, the maker’s manual and your safety officer come
        before any rule here.
      </p>
    </Form>
  )
}
