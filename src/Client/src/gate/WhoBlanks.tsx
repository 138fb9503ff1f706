import { useQuery } from '@tanstack/react-query'
import { hasRole, peopleQuery, trainersQuery, useSession } from '../kit/session'
import { Blank, Pick, type Option } from './Blank'
import type { SentenceProps } from './blankProps'
import sentenceCss from './sentence.module.css'

export function Person({ state, change, shut }: SentenceProps) {
  const { me } = useSession()
  const staff = hasRole(me, 'steward', 'trainer')
  const people = useQuery({ ...peopleQuery, enabled: staff })
  const id = state.member ?? me.memberId
  const name = id === me.memberId ? me.name : (people.data?.find((p) => p.id === id)?.name ?? id)
  if (!staff) return <b className={sentenceCss.fixedname}>{me.name}</b>
  return (
    <Blank name="Person" text={name} empty="someone" bad={shut.has('person') || shut.has('training')}>
      {(close) => (
        <Pick
          label="Find a person"
          value={id}
          options={(people.data ?? []).map((p) => ({
            value: p.id,
            label: p.name,
            note: p.certificates?.map((c) => c.authority).join(', '),
          }))}
          onPick={(member) => {
            change({ member })
            close()
          }}
        />
      )}
    </Blank>
  )
}

/** A learner runs beside a trainer for the machine, who is booked for the whole time. */
export function Supervisor({ state, change, errors }: SentenceProps) {
  const trainers = useQuery({ ...trainersQuery(state.machine ?? ''), enabled: !!state.machine })
  const chosen = trainers.data?.find((t) => t.id === state.supervisor)
  const others = trainers.data?.filter((t) => t.id !== state.member)
  if (!state.machine || (!state.supervisor && !others?.length)) return null
  return (
    <>
      ,{' '}
      <Blank
        name="Supervisor"
        text={state.supervisor ? `beside ${chosen?.name ?? state.supervisor}` : 'alone'}
        empty="alone"
        error={errors.supervisorId}
      >
        {(close) => (
          <Pick
            label="Find a trainer for this machine"
            value={state.supervisor}
            options={[
              { value: '', label: 'Alone', note: 'a certificate is needed' },
              ...(others ?? []).map((t): Option => ({ value: t.id, label: t.name, note: 'stays for the whole time' })),
            ]}
            onPick={(supervisor) => {
              change({ supervisor: supervisor || null })
              close()
            }}
          />
        )}
      </Blank>
      ,
    </>
  )
}
