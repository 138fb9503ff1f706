import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query'
import { useEffect, useState } from 'react'
import { answer, ApiError, client, type Schemas } from '../kit/api'
import { useSession } from '../kit/session'

export type Station = Schemas['StationResponse']
export type Session = Schemas['StationSessionResponse']
export type Act = Omit<Schemas['ActRequest'], 'id' | 'session' | 'version'> & { act: string }
/** Does something at the machine, on the session as it is shown. */
export type Doing = ReturnType<typeof useDoing>

/** Often enough for two screens at one machine; a press answers at once. A controller’s word is waited for. */
const LOOK_EVERY_MS = 3000
const LOOK_EVERY_LIVE_MS = 1000

export const stationKey = (machine: string) => ['live', 'station', machine]

export const useStation = (machine: string) =>
  useQuery({
    queryKey: stationKey(machine),
    queryFn: ({ signal }) => answer(client.GET('/api/stations/{machine}', { params: { path: { machine } }, signal })),
    refetchInterval: (query) => (query.state.data?.live ? LOOK_EVERY_LIVE_MS : LOOK_EVERY_MS),
    retry: false,
  })

export function useTap(machine: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (by: { fob?: string; code?: string; booking?: string; pin?: string }) =>
      answer(
        client.POST('/api/stations/{machine}/tap', {
          params: { path: { machine } },
          body: { ...by, id: crypto.randomUUID() },
        }),
      ),
    onSuccess: (station) => queries.setQueryData(stationKey(machine), station),
  })
}

export function useDoing(machine: string, session: Session) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (act: Act) =>
      answer(
        client.POST('/api/stations/{machine}/act', {
          params: { path: { machine } },
          body: { ...act, id: crypto.randomUUID(), session: session.id, version: session.version },
        }),
      ),
    onSuccess: (station) => queries.setQueryData(stationKey(machine), station),
    onError: (error) => {
      // Somebody went on elsewhere: what is shown is old.
      if (error instanceof ApiError && error.problem.status === 409)
        void queries.invalidateQueries({ queryKey: stationKey(machine) })
    },
  })
}

/** Takes the beam away, whoever presses. */
export function useStop(machine: string) {
  const queries = useQueryClient()
  return useMutation({
    mutationFn: (id: string) =>
      answer(client.POST('/api/stations/{machine}/stop', { params: { path: { machine } }, body: { id } })),
    onSettled: () => queries.invalidateQueries({ queryKey: stationKey(machine) }),
  })
}

/** The time, each half second, on the house's clock. */
export function useTick() {
  const { now } = useSession()
  const [at, setAt] = useState(now)
  useEffect(() => {
    const timer = setInterval(() => setAt(now()), 500)
    return () => clearInterval(timer)
  }, [now])
  return at
}

/** 1:52 */
export const minutesLeft = (ms: number) => {
  const seconds = Math.max(0, Math.ceil(ms / 1000))
  return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, '0')}`
}

/** The screen stays awake while somebody runs a machine, where the device lets it. */
export function useAwake(on: boolean) {
  useEffect(() => {
    if (!on || !('wakeLock' in navigator)) return
    let lock: WakeLockSentinel | undefined
    let over = false
    const take = () =>
      navigator.wakeLock.request('screen').then(
        (taken) => {
          lock = taken
          if (over) void taken.release()
        },
        () => undefined,
      )
    const again = () => {
      if (!document.hidden) void take()
    }
    void take()
    document.addEventListener('visibilitychange', again)
    return () => {
      over = true
      document.removeEventListener('visibilitychange', again)
      void lock?.release()
    }
  }, [on])
}

/** A tone twice a second while it is on: heard where nobody looks. */
export function useTone(on: boolean) {
  useEffect(() => {
    if (!on) return
    let audio: AudioContext
    try {
      audio = new AudioContext()
    } catch {
      return
    }
    const beep = () => {
      const tone = audio.createOscillator()
      const loud = audio.createGain()
      tone.frequency.value = 880
      loud.gain.value = 0.4
      tone.connect(loud).connect(audio.destination)
      tone.start()
      tone.stop(audio.currentTime + 0.2)
    }
    void audio.resume().catch(() => undefined)
    beep()
    const timer = setInterval(beep, 500)
    return () => {
      clearInterval(timer)
      void audio.close()
    }
  }, [on])
}
