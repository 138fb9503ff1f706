import './emergency.css'
import { useQuery } from '@tanstack/react-query'
import { useEffect } from 'react'
import { Link, useParams } from 'react-router'
import { answer, client, type Schemas } from '../shared/api'
import { Failure, Loading } from '../shared/parts'

/** The card at a machine: no account, readable at two metres, printable, kept by the browser. */
export function EmergencyPage() {
  const { machine = '' } = useParams()
  const card = useQuery({
    queryKey: ['emergency', machine],
    queryFn: ({ signal }) =>
      answer(client.GET('/api/machines/{id}/emergency', { params: { path: { id: machine } }, signal })),
    retry: 1,
  })
  const others = card.data?.others
  useEffect(() => {
    // One look at one card keeps them all.
    for (const other of others ?? []) void fetch(`/api/machines/${other.id}/emergency`).catch(() => undefined)
  }, [others])
  if (card.isPending)
    return (
      <main className="ecard">
        <Loading what="the card" />
      </main>
    )
  if (!card.data)
    return (
      <main className="ecard">
        <h1>Stop the machine. Alarm. Everybody out. Call the fire service.</h1>
        <Failure error={card.error} retry={() => void card.refetch()} />
      </main>
    )
  return <Shown card={card.data.card} others={card.data.others} machine={machine} />
}

function Shown({ card, others, machine }: { card: Schemas['Card']; others: Schemas['OtherCard'][]; machine: string }) {
  return (
    <main className="ecard">
      <header>
        <h1>{card.machineName}: fire</h1>
        <p className="noprint">
          {others.length > 1 &&
            others.map((o) => (
              <Link key={o.id} to={`/emergency/${o.id}`} aria-current={o.id === machine ? 'page' : undefined}>
                {o.name}
              </Link>
            ))}
          <button type="button" className="btn btn-outline-primary" onClick={() => window.print()}>
            Print
          </button>
        </p>
      </header>
      <ol className="steps">
        {card.fire.map((step) => (
          <li key={step.strong}>
            <b>{step.strong}</b>
            <span>{step.text}</span>
          </li>
        ))}
      </ol>
      <div className="ecols">
        <Steps title="Smoke from filter or duct" steps={card.smoke} />
        <Steps title="Fume" steps={card.fume} />
        <Steps title="Hurt" steps={card.hurt} />
        <Steps title="Afterwards" steps={card.after} />
        <section>
          <h2>Take care</h2>
          <ul>
            {card.warnings.map((w) => (
              <li key={w}>{w}</li>
            ))}
          </ul>
        </section>
      </div>
      <footer>
        {card.houseName}. {card.defers}
      </footer>
    </main>
  )
}

function Steps({ title, steps }: { title: string; steps: Schemas['CardStep'][] }) {
  return (
    <section>
      <h2>{title}</h2>
      {steps.map((s) => (
        <p key={s.strong}>
          <b>{s.strong}</b> {s.text}
        </p>
      ))}
    </section>
  )
}
