import { useState } from 'react'
import Form from 'react-bootstrap/Form'
import { Act, Fold, useAction } from '../kit/Act'
import { answer, client, type Schemas } from '../kit/api'
import { fieldErrors, SelectField, TextField } from '../kit/parts'
import { useSession } from '../kit/session'
import { Standing } from '../kit/Standing'
import trainingCss from './training.module.css'

type Hold = Schemas['CertificateHoldResponse']

/** A certificate that is suspended or looked at again: why, what is still open, and how it ends. */
export function HoldActs({ hold, steward }: { hold: Hold; steward: boolean }) {
  const { time } = useSession()
  const [reason, setReason] = useState('')
  const end = useAction(() =>
    answer(client.POST('/api/certificate-holds/{id}/end', { params: { path: { id: hold.id } }, body: { reason } })),
  )
  const suspended = hold.kind === 'suspended'
  return (
    <div className={trainingCss.holdcard}>
      <Standing
        standing={suspended ? 'shut' : 'ask'}
        word={`${hold.authorityName}: ${suspended ? 'suspended' : 'under review'} since ${time.day(hold.since)}`}
      />
      <p className="mb-1">
        {hold.reason ?? 'Reason erased.'} <span className="small quiet">{hold.setBy}</span>
      </p>
      {hold.unmet.length > 0 && <p className="mb-1">Before it counts again: {hold.unmet.join('; ')}.</p>}
      {steward && (
        <Fold title={suspended ? 'Reinstate' : 'End the review'}>
          <Act
            act={end}
            button={suspended ? 'Reinstate' : 'It counts as before'}
            fields={['reason']}
            done={end.data?.text}
          >
            <TextField
              id={`end-${hold.id}`}
              label="What was looked at"
              rows={2}
              value={reason}
              put={setReason}
              error={fieldErrors(end.error).reason}
            />
          </Act>
        </Fold>
      )}
    </div>
  )
}

/** Suspends a certificate, or puts it under review. */
function Begin({ person, name }: { person: Schemas['PersonResponse']; name: (authority: string) => string }) {
  const held = person.certificates ?? []
  const [authority, setAuthority] = useState(held[0]?.authority ?? '')
  const [kind, setKind] = useState<'suspended' | 'review'>('suspended')
  const [runs, setRuns] = useState('0')
  const [quiz, setQuiz] = useState(false)
  const [reason, setReason] = useState('')
  const set = useAction(
    () =>
      answer(
        client.POST('/api/certificate-holds', {
          body: {
            personId: person.id,
            authority,
            kind,
            reason,
            ...(kind === 'suspended' && { supervisedRuns: Number(runs) || 0, quiz }),
          },
        }),
      ),
    () => setReason(''),
  )
  const errors = fieldErrors(set.error)
  if (held.length === 0) return null
  return (
    <Fold title="Suspend or review a certificate">
      <Act
        act={set}
        button={kind === 'suspended' ? 'Suspend it' : 'Put it under review'}
        danger={kind === 'suspended'}
        fields={['authority', 'kind', 'supervisedRuns', 'reason']}
        done={set.data && 'Done: the person was told.'}
      >
        <SelectField
          id="hold-authority"
          label="Certificate"
          value={authority}
          put={setAuthority}
          options={held.map((c) => [c.authority, name(c.authority)] as const)}
          error={errors.authority}
        />
        <SelectField
          id="hold-kind"
          label="What follows"
          value={kind}
          put={setKind}
          options={[
            ['suspended', 'Suspended: the gate is shut'],
            ['review', 'Under review: the gate asks'],
          ]}
          error={errors.kind}
        />
        {kind === 'suspended' && (
          <>
            <TextField
              id="hold-runs"
              label="Supervised runs before it counts again"
              inputMode="numeric"
              value={runs}
              put={setRuns}
              error={errors.supervisedRuns}
            />
            <Form.Check
              id="hold-quiz"
              label="The quiz is passed anew"
              checked={quiz}
              onChange={(e) => setQuiz(e.target.checked)}
              className="mb-2"
            />
          </>
        )}
        <TextField
          id="hold-reason"
          label="Why, for the person and the stewards"
          rows={2}
          value={reason}
          put={setReason}
          error={errors.reason}
        />
      </Act>
    </Fold>
  )
}
HoldActs.Begin = Begin
