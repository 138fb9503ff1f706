import type { Schemas } from '../kit/api'
import { Ticket } from '../kit/parts'
import { useSession } from '../kit/session'

/** A link by which somebody sets their password, once. It is shown this one time. */
export function Invite({ made, name }: { made: Schemas['InviteResponse']; name: string }) {
  const { time } = useSession()
  return (
    <Ticket label="Link to set a password">
      <h3>For {name}, and nobody else</h3>
      <p>
        <a href={made.link}>{made.link}</a>
      </p>
      <p>
        On paper: the code <b>{made.code}</b>, typed on the page “Set a password”. It serves once, to{' '}
        {time.moment(made.expires)}, and is shown only now.
      </p>
      {made.waits && (
        <p>
          This person may act for others: a second keeper or the countersigner agrees under <b>You</b> before the link
          serves.
        </p>
      )}
    </Ticket>
  )
}
