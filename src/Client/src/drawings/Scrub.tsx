import { useQuery } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import Button from 'react-bootstrap/Button'
import { Failure, Loading } from '../kit/parts'
import { answer, client } from '../kit/api'
import { doing, headAt, readTimeline, type RunTimeline } from './runTimeline'
import css from './drawings.module.css'

/** The whole of a run is played in about so many seconds. */
const played = 20

const clock = (seconds: number) => {
  const whole = Math.round(seconds)
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}

export interface Watched {
  run: RunTimeline
  second: number
}

/** A run to be watched: nothing is fetched before somebody wants to. */
export function useRun(
  id: string,
  sheeting: { machineId: string; materialId: string; thickness: string },
  unit: string,
) {
  const [watching, setWatching] = useState(false)
  const [second, setSecond] = useState(0)
  const query = { ...sheeting, unit }
  const timeline = useQuery({
    queryKey: ['timeline', id, query],
    queryFn: async ({ signal }) =>
      readTimeline(
        await answer(
          client.GET('/api/drawings/{id}/timeline', {
            params: { path: { id }, query },
            parseAs: 'arrayBuffer',
            signal,
          }),
        ),
      ),
    enabled: watching,
    staleTime: 60_000,
    retry: false,
  })
  const run = watching ? timeline.data : undefined
  const watched: Watched | undefined = run && run.count > 1 ? { run, second: Math.min(second, run.seconds) } : undefined
  return { watching, setWatching, setSecond, timeline, watched }
}

/** The bar below a drawing: where the head is at any second of the run. */
export function Scrub({ of }: { of: ReturnType<typeof useRun> }) {
  const { watching, setWatching, setSecond, timeline, watched } = of
  const [playing, setPlaying] = useState(false)
  const whole = watched?.run.seconds ?? 0
  const faster = Math.max(1, whole / played)
  useEffect(() => {
    if (!playing || whole === 0) return
    let frame = 0
    let before = performance.now()
    const next = (now: number) => {
      const on = ((now - before) / 1000) * faster
      before = now
      setSecond((at) => Math.min(whole, at + on))
      frame = requestAnimationFrame(next)
    }
    frame = requestAnimationFrame(next)
    return () => cancelAnimationFrame(frame)
  }, [playing, whole, faster, setSecond])
  if (playing && watched && watched.second >= whole) setPlaying(false)
  if (!watching)
    return (
      <Button variant="outline-primary" size="sm" className="mt-2" onClick={() => setWatching(true)}>
        Watch it run
      </Button>
    )
  if (timeline.isPending) return <Loading what="the run" />
  if (!watched)
    return (
      <>
        <Failure error={timeline.error} retry={() => void timeline.refetch()} />
        {timeline.data && <p className="small quiet mt-2">Nothing in this drawing runs.</p>}
      </>
    )
  const says = `${clock(watched.second)} of ${clock(whole)}, ${doing[headAt(watched.run, watched.second).what]}`
  return (
    <div className={css.scrub} role="group" aria-label="The run">
      <Button
        variant="outline-primary"
        size="sm"
        onClick={() => {
          if (watched.second >= whole) setSecond(0)
          setPlaying(!playing)
        }}
      >
        {playing ? 'Pause' : 'Play'}
      </Button>
      <input
        type="range"
        aria-label="Second of the run"
        aria-valuetext={says}
        min={0}
        max={whole}
        step={Math.max(0.01, whole / 2000)}
        value={watched.second}
        onChange={(event) => {
          setPlaying(false)
          setSecond(Number(event.target.value))
        }}
      />
      <output className="num">{says}</output>
      <Button
        variant="link"
        size="sm"
        onClick={() => {
          setPlaying(false)
          setWatching(false)
        }}
      >
        Done
      </Button>
    </div>
  )
}
