import { useEffect } from 'react'
import { useSearchParams } from 'react-router'
import type { Doing, Session } from './useStation'

/** The code at the machine was scanned: this page opened with it. It is said once, for the session that is there. */
export function useScanned(session: Session, doing: Doing) {
  const [params, setParams] = useSearchParams()
  const code = params.get('here')
  const { mutate } = doing
  const { hereDue, mine } = session
  useEffect(() => {
    if (!code || !mine) return
    setParams((was) => new URLSearchParams([...was].filter(([name]) => name !== 'here')), { replace: true })
    if (hereDue) mutate({ act: 'here', code })
  }, [code, mine, hereDue, mutate, setParams])
}
