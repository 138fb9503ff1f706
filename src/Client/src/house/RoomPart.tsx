import { useAction } from '../kit/Act'
import { useQuery } from '@tanstack/react-query'
import { useState, type SubmitEvent } from 'react'
import Button from 'react-bootstrap/Button'
import Form from 'react-bootstrap/Form'
import { answer, client, type Schemas } from '../kit/api'
import { Empty, Failure, Field, fieldErrors, RunOn, TextField } from '../kit/parts'
import { hasRole, useSession } from '../kit/session'
import { SheetForm } from '../kit/SheetForm'
import { asWritten, toSheet, type Sheet } from '../kit/sheetValues'
import { formsQuery } from './houseQueries'

type SheetsAnswer = Schemas['SheetsResponse']

/** The room, its fire kit with dates, and the eyewear. */
export function RoomPart({ sheets }: { sheets: SheetsAnswer }) {
  const forms = useQuery(formsQuery)
  return (
    <>
      <Kit sheets={sheets} />
      <Eyewear sheets={sheets} />
      {forms.data && <Room key={JSON.stringify(sheets.room)} sheets={sheets} fields={forms.data.room} />}
    </>
  )
}

const useKeeper = () => hasRole(useSession().me, 'keeper')

const idOf = (name: string) =>
  name
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 40)

function useSave<T>(act: (body: T) => Promise<unknown>) {
  return useAction(act)
}

function Kit({ sheets }: { sheets: SheetsAnswer }) {
  const keeper = useKeeper()
  const { time } = useSession()
  return (
    <section>
      <RunOn title="Fire kit" after={sheets.kit.length} />
      {sheets.kit.length === 0 && (
        <Empty title="No fire kit is listed">The gate stays shut until it is: extinguisher, blanket, alarm.</Empty>
      )}
      {sheets.kit.length > 0 && (
        <table className="plain mt-2">
          <thead>
            <tr>
              <th scope="col">Item</th>
              <th scope="col">In date to</th>
              {keeper && <th scope="col">Change</th>}
            </tr>
          </thead>
          <tbody>
            {sheets.kit.map((k) => (
              <KitRow
                key={`${k.id} ${k.lastDay ?? ''}`}
                item={k}
                keeper={keeper}
                date={k.lastDay ? time.date(`${k.lastDay}T12:00:00Z`) : null}
              />
            ))}
          </tbody>
        </table>
      )}
      {keeper && <KitForm key={sheets.kit.length} />}
    </section>
  )
}

function KitRow({ item, keeper, date }: { item: Schemas['KitResponse']; keeper: boolean; date: string | null }) {
  const [open, setOpen] = useState(false)
  return (
    <tr>
      <td>
        <b>{item.name}</b>
      </td>
      <td>{date ?? 'does not go out of date'}</td>
      {keeper && (
        <td>
          {open ? (
            <>
              <KitForm item={item} />
              <EndKit item={item} />
            </>
          ) : (
            <button type="button" className="quietlink" onClick={() => setOpen(true)}>
              New date, or take it off
            </button>
          )}
        </td>
      )}
    </tr>
  )
}

function EndKit({ item }: { item: Schemas['KitResponse'] }) {
  const end = useSave(() => answer(client.DELETE('/api/house/kit/{id}', { params: { path: { id: item.id } } })))
  return (
    <>
      <button type="button" className="quietlink" disabled={end.isPending} onClick={() => end.mutate(undefined)}>
        The house has it no longer<span className="visually-hidden">: {item.name}</span>
      </button>
      <Failure error={end.error} />
    </>
  )
}

function KitForm({ item }: { item?: Schemas['KitResponse'] }) {
  const [name, setName] = useState(item?.name ?? '')
  const [lastDay, setLastDay] = useState(item?.lastDay ?? '')
  const save = useSave(() =>
    answer(
      client.PUT('/api/house/kit/{id}', {
        params: { path: { id: item?.id ?? (idOf(name) || '-') } },
        body: { name, lastDay },
      }),
    ),
  )
  const errors = fieldErrors(save.error)
  const id = `kit-${item?.id ?? 'new'}`
  return (
    <Form
      noValidate
      className="inlineform"
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        save.mutate(undefined)
      }}
    >
      <Field id={`${id}-name`} label="Item" error={errors.name ?? errors.id}>
        <Form.Control
          id={`${id}-name`}
          value={name}
          onChange={(e) => setName(e.target.value)}
          isInvalid={!!errors.name}
        />
      </Field>
      <TextField
        id={`${id}-day`}
        label="In date to (may stay empty)"
        error={errors.lastDay}
        type="date"
        value={lastDay}
        put={setLastDay}
      />
      <div className="mb-2">
        <Button type="submit" size="sm" disabled={save.isPending}>
          {item ? 'Save' : 'Add to the kit'}
        </Button>
      </div>
      {save.isError && Object.keys(errors).length === 0 && <Failure error={save.error} />}
    </Form>
  )
}

function Eyewear({ sheets }: { sheets: SheetsAnswer }) {
  const keeper = useKeeper()
  return (
    <section className="sheetgroup">
      <RunOn title="Eyewear" after={sheets.eyewear.length} />
      {sheets.eyewear.length > 0 && (
        <table className="plain mt-2">
          <thead>
            <tr>
              <th scope="col">Set</th>
              <th scope="col">Covers, nm</th>
              <th scope="col">OD</th>
              <th scope="col">Damage rating</th>
              <th scope="col">Pairs in good condition</th>
            </tr>
          </thead>
          <tbody>
            {sheets.eyewear.map((e) => (
              <tr key={e.id}>
                <td>
                  <b>{e.name}</b>
                </td>
                <td>
                  {e.minNm} to {e.maxNm}
                </td>
                <td>{e.opticalDensity}</td>
                <td>{e.damageRated ? 'marked' : 'none: it does not count'}</td>
                <td>{e.count}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {sheets.eyewear.length === 0 && <p>None. A closed, interlocked machine needs none in normal use.</p>}
      {keeper && <EyewearForm key={sheets.eyewear.length} />}
    </section>
  )
}

const eyewearFields = [
  ['name', 'Set'],
  ['minNm', 'From, nm'],
  ['maxNm', 'To, nm'],
  ['opticalDensity', 'OD'],
  ['count', 'Pairs'],
] as const

function EyewearForm() {
  const [set, setSet] = useState<Record<string, string>>({})
  const [rated, setRated] = useState(false)
  const number = (key: string) => (set[key]?.trim() ? Number(set[key].replace(',', '.')) : null)
  const whole = (key: string) => (Number.isInteger(number(key)) ? number(key) : null)
  const save = useSave(() =>
    answer(
      client.PUT('/api/house/eyewear/{id}', {
        params: { path: { id: idOf(set.name ?? '') || '-' } },
        body: {
          name: set.name ?? '',
          minNm: whole('minNm'),
          maxNm: whole('maxNm'),
          opticalDensity: Number.isFinite(number('opticalDensity')) ? number('opticalDensity') : null,
          count: whole('count'),
          damageRated: rated,
        },
      }),
    ),
  )
  const errors = fieldErrors(save.error)
  return (
    <Form
      noValidate
      className="inlineform"
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        save.mutate(undefined)
      }}
    >
      {eyewearFields.map(([key, label]) => (
        <TextField
          key={key}
          id={`eyewear-${key}`}
          label={label}
          error={errors[key]}
          value={set[key] ?? ''}
          put={(value) => setSet({ ...set, [key]: value })}
        />
      ))}
      <Form.Check
        id="eyewear-rated"
        className="mb-2"
        label="Damage rating marked"
        checked={rated}
        onChange={(e) => setRated(e.target.checked)}
      />
      <div className="mb-2">
        <Button type="submit" size="sm" disabled={save.isPending}>
          Add the eyewear
        </Button>
      </div>
      {save.isError && Object.keys(errors).length === 0 && <Failure error={save.error} />}
    </Form>
  )
}

function Room({ sheets, fields }: { sheets: SheetsAnswer; fields: Schemas['FormField'][] }) {
  const keeper = useKeeper()
  const [sheet, setSheet] = useState<Sheet>(() => toSheet(fields, sheets.room ?? {}))
  const save = useSave(() => answer(client.PUT('/api/house/room', { body: { fields: sheet as never } })))
  const errors = fieldErrors(save.error)
  if (!keeper)
    return (
      <>
        {[...new Set(fields.map((f) => f.group))].map((group) => (
          <section key={group} className="sheetgroup">
            <RunOn title={group} />
            <table className="plain">
              <tbody>
                {fields
                  .filter((f) => f.group === group && sheet[f.key] !== '')
                  .map((f) => (
                    <tr key={f.key}>
                      <th scope="row" className="rulename">
                        {f.label}
                      </th>
                      <td>
                        {f.kind === 'flag'
                          ? sheet[f.key]
                            ? 'yes'
                            : 'no'
                          : (f.choices?.find((c) => c.value === sheet[f.key])?.text ??
                            `${asWritten(sheet[f.key])}${f.unit ? ` ${f.unit}` : ''}`)}
                      </td>
                    </tr>
                  ))}
              </tbody>
            </table>
          </section>
        ))}
      </>
    )
  return (
    <Form
      noValidate
      aria-label="The room"
      onSubmit={(event: SubmitEvent) => {
        event.preventDefault()
        save.mutate(undefined)
      }}
    >
      <SheetForm fields={fields} sheet={sheet} change={setSheet} errors={errors} prefix="room" />
      <Failure error={save.error} />
      <div className="sheetfoot">
        <Button type="submit" disabled={save.isPending}>
          Save the room
        </Button>
        {save.isSuccess && <span role="status">Saved.</span>}
        <p className="small quiet mb-0">
          Agree extinguisher, alarm and way out with your fire officer. The emergency cards are worded from this.
        </p>
      </div>
    </Form>
  )
}
