import { useQueryClient } from '@tanstack/react-query'
import { useEffect } from 'react'
import { seldom } from './seldom'

/** Listens to what happens in the house and marks what is shown as stale. Ends while the tab is hidden; polls nothing. */
export function useLive() {
  const queries = useQueryClient()
  useEffect(() => {
    let stream: EventSource | null = null
    let last: string | null = null
    const refresh = seldom(() => void queries.invalidateQueries({ queryKey: ['live'] }), 1000)
    const open = () => {
      if (stream || document.hidden) return
      stream = new EventSource(last === null ? '/api/events' : `/api/events?after=${last}`)
      stream.addEventListener('happening', (event) => {
        const known = last
        last = event.lastEventId
        if (known !== null && known !== last) refresh.call()
      })
    }
    const close = () => {
      stream?.close()
      stream = null
    }
    const turn = () => (document.hidden ? close() : open())
    document.addEventListener('visibilitychange', turn)
    open()
    return () => {
      document.removeEventListener('visibilitychange', turn)
      refresh.stop()
      close()
    }
  }, [queries])
}
