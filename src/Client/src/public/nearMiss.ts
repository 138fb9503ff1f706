import { halfDayOf, keep, send, sendWaiting, waiting } from './outbox'

/** First after so long, then twice as long each time: a house that takes so many an hour is not asked more often. */
const RETRY_MS = 20_000
const RETRY_MOST_MS = 20 * 60_000

/** The page for near misses: what is tapped stays until it is sent, or safely waits. */
export function nearMissPage(page: HTMLElement) {
  const form = page.querySelector('form')!
  const said = page.querySelector<HTMLElement>('[data-said]')!
  const words = page.querySelector<HTMLElement>('[data-lookwords]')!
  const named = page.querySelector<HTMLAnchorElement>('[data-named]')!
  const chosen = (name: string) => form.querySelector<HTMLInputElement>(`input[name="${name}"]:checked`)
  const tell = (text: string) => (said.textContent = text)
  let sending = false

  form.addEventListener('change', () => {
    words.hidden = !(chosen('what')?.dataset.look && chosen('machine')?.value)
    const query = new URLSearchParams()
    if (chosen('what')) query.set('what', chosen('what')!.value)
    if (chosen('machine')?.value) query.set('machine', chosen('machine')!.value)
    named.href = `/incidents/tell?${query.toString()}`
  })

  form.addEventListener('submit', (event) => {
    event.preventDefault()
    const [what, machine] = [chosen('what'), chosen('machine')]
    if (!what || !machine) {
      tell(what ? 'Tap where it was.' : 'Tap what happened.')
      form.querySelector<HTMLInputElement>(`input[name="${what ? 'machine' : 'what'}"]`)!.focus()
      return
    }
    const note = form.querySelector('textarea')!
    const told = {
      id: crypto.randomUUID(),
      halfDay: halfDayOf(new Date(), page.dataset.zone!),
      machineId: machine.value,
      what: what.value,
      note: note.value.trim(),
    }
    // Kept first: a page that is closed while it sends loses nothing.
    keep(told)
    sending = true
    tell('Sending …')
    void send(told, true).then((result) => {
      sending = false
      if (result.state === 'refused') return tell(`${result.why} Your words still stand above.`)
      if (result.state === 'waits' && !waiting().some((one) => one.id === told.id))
        return tell(
          'No network, and this browser keeps nothing. What you tapped still stands above: send it again later.',
        )
      tell(
        result.state === 'sent'
          ? 'Told, without a name. Thank you: it helps the next person.'
          : 'No network: it waits on this device and is sent once, by itself. You may close the page.',
      )
      form.reset()
      words.hidden = true
    })
  })

  const again = () => {
    sending = true
    void sendWaiting().then(({ sent, refused }) => {
      if (sent > 0) tell(`${sent} told that waited for a network.`)
      if (refused.length > 0) tell(`${refused.length} that waited was not taken: ${refused[0]} Tell a steward.`)
      sending = false
    })
  }
  const look = () => {
    if (waiting().length > 0 && !sending) again()
  }
  window.addEventListener('online', look)
  // A house that cannot be reached from a network that is there says nothing when it comes back.
  const later = (wait: number) =>
    setTimeout(() => {
      look()
      later(Math.min(RETRY_MOST_MS, wait * 2))
    }, wait)
  later(RETRY_MS)
  look()
}
