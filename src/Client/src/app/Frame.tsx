import { useMutation, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState, type ReactNode } from 'react'
import Modal from 'react-bootstrap/Modal'
import { Link, NavLink, useLocation, useNavigate } from 'react-router'
import { answer, client } from '../kit/api'
import { hasRole, useSession } from '../kit/session'
import { useLive } from '../kit/live'
import { chooseUnit, useUnit } from '../kit/units'
import { useWatch } from '../watch'
import { Mark } from './Mark'
import { SignInAgain } from './SignInAgain'

const rail = [
  ['/watch', 'Watch'],
  ['/ask', 'Ask'],
  ['/materials', 'Materials'],
  ['/training', 'Training'],
  ['/drawings', 'Drawings'],
  ['/bookings', 'Bookings'],
  ['/machines', 'Machines'],
  ['/incidents', 'Incidents'],
  ['/upkeep', 'Upkeep'],
  ['/records', 'Records'],
  ['/house', 'House'],
] as const

/** The rail in the order of the work, and the page beside it. */
export function Frame({ children }: { children: ReactNode }) {
  const { me, time } = useSession()
  const watch = useWatch()
  const location = useLocation()
  const [folded, setFolded] = useState({ open: false, at: location.pathname })
  const stops = rail.filter(([to]) => to !== '/records' || hasRole(me, 'steward', 'keeper', 'countersigner'))
  useLive()
  const keys = useKeys(stops.map(([to]) => to))
  const open = folded.open && folded.at === location.pathname
  const needs = watch.data?.needs.length ?? 0
  return (
    <div className="frame">
      <SignInAgain />
      <a className="skip" href="#page">
        Skip to the page
      </a>
      <nav className={`rail ${open ? 'openrail' : ''}`} aria-label="The order of the work">
        <div className="railtop">
          <div className="brandmark">
            <Mark />
          </div>
          <b className="d-lg-none">Velvet Gate</b>
          <a className="emergency" href={emergencyCard(location.pathname)}>
            Emergency
          </a>
          <button
            className="foldbtn"
            aria-expanded={open}
            onClick={() => setFolded({ open: !open, at: location.pathname })}
          >
            {open ? 'Close' : 'Rooms'}
          </button>
        </div>
        <ol>
          {stops.map(([to, name]) => (
            <li key={to}>
              <NavLink to={to}>
                {name}
                {to === '/watch' && needs > 0 && (
                  <span className="count">
                    {needs}
                    <span className="visually-hidden"> need a hand</span>
                  </span>
                )}
              </NavLink>
            </li>
          ))}
        </ol>
        <div className="duty">
          {watch.data?.onDuty ? (
            <>
              On duty<b>{watch.data.onDuty}</b>
              until {time.clock(watch.data.onDutyUntil!)}
            </>
          ) : (
            'Nobody on duty'
          )}
          <hr />
          <Link to="/me">{me.name}</Link>
          <UnitChoice />
          <SignOut />
        </div>
      </nav>
      <main className="leafpage" id="page">
        {me.pause && (
          <div className="alert alert-danger" role="status">
            You are paused{me.pause.until ? ` until ${time.moment(me.pause.until)}` : ''}. {me.pause.reason}
          </div>
        )}
        {children}
      </main>
      <Modal show={keys.shown} onHide={keys.hide} aria-labelledby="keys-title">
        <Modal.Body>
          <h2 id="keys-title">Keys</h2>
          <table className="plain">
            <tbody>
              <tr>
                <td>
                  <kbd>/</kbd>
                </td>
                <td>Find on this page</td>
              </tr>
              {stops.map(([to, name], i) => (
                <tr key={to}>
                  <td>
                    <kbd>Alt</kbd> <kbd>{(i + 1) % 10}</kbd>
                  </td>
                  <td>{name}</td>
                </tr>
              ))}
              <tr>
                <td>
                  <kbd>Enter</kbd> <kbd>Esc</kbd>
                </td>
                <td>Fill a blank, leave a blank</td>
              </tr>
              <tr>
                <td>
                  <kbd>?</kbd>
                </td>
                <td>This list</td>
              </tr>
            </tbody>
          </table>
          <button className="quietlink mt-2" onClick={keys.hide}>
            Close
          </button>
        </Modal.Body>
      </Modal>
    </div>
  )
}

/** The card of the machine whose page is open, where one is; else the first, which leads to the others. */
const emergencyCard = (path: string) => {
  const machine = /^\/machines\/([a-z0-9-]+)/.exec(path)?.[1]
  return machine ? `/emergency/${machine}` : '/emergency'
}

/** Millimetres or inches, for everything shown and every bare number typed. */
function UnitChoice() {
  const unit = useUnit()
  return (
    <fieldset className="unitchoice">
      <legend className="visually-hidden">Lengths in</legend>
      {(['mm', 'in'] as const).map((name) => (
        <label key={name}>
          <input type="radio" name="unit" checked={unit === name} onChange={() => chooseUnit(name)} />
          {name}
        </label>
      ))}
    </fieldset>
  )
}

function SignOut() {
  const queries = useQueryClient()
  const out = useMutation({
    mutationFn: () => answer(client.POST('/api/sign-out')),
    onSuccess: () => queries.resetQueries(),
  })
  return (
    <div>
      <button onClick={() => out.mutate()}>Sign out</button>
    </div>
  )
}

/** Alt+number for the rail, / to find, ? for the list; single letters act only outside fields. */
function useKeys(stops: string[]) {
  const navigate = useNavigate()
  const [shown, setShown] = useState(false)
  const list = stops.join(' ')
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement
      const typing = target.matches('input, textarea, select, [contenteditable]')
      if (event.altKey && /^Digit[0-9]$/.test(event.code)) {
        // The tenth has the key after 9.
        const to = list.split(' ')[(Number(event.code.slice(5)) + 9) % 10]
        if (to) {
          event.preventDefault()
          void navigate(to)
        }
      } else if (!typing && !event.ctrlKey && !event.metaKey && event.key === '/') {
        const field = document.querySelector<HTMLInputElement>('[data-find]')
        if (field) {
          event.preventDefault()
          field.focus()
        }
      } else if (!typing && event.key === '?') setShown(true)
    }
    document.addEventListener('keydown', press)
    return () => document.removeEventListener('keydown', press)
  }, [navigate, list])
  return { shown, hide: () => setShown(false) }
}
