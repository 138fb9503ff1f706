import { useQueryClient } from '@tanstack/react-query'
import { useEffect, useState, type ReactNode } from 'react'
import { useParams } from 'react-router'
import { nobody, SessionContext, sessionOf } from '../kit/session'
import { kept } from './kept'
import { StationPage } from './StationPage'
import { stationKey } from './useStation'

const AGAIN_EVERY_MS = 3000

/** The screen of a session that was open in this tab, while the house does not answer: as it was last, and it says so. */
export function StationKept({ again, otherwise }: { again: () => void; otherwise: ReactNode }) {
  const { machine = '' } = useParams()
  const queries = useQueryClient()
  const [was] = useState(() => {
    const found = kept(machine)
    if (found) queries.setQueryData(stationKey(machine), found.station, { updatedAt: found.at })
    return found
  })
  const [session] = useState(() =>
    was ? sessionOf({ ...nobody, memberId: was.memberId, name: was.name }, was.house, was.since) : null,
  )
  useEffect(() => {
    const timer = setInterval(again, AGAIN_EVERY_MS)
    return () => clearInterval(timer)
  }, [again])
  return session ? (
    <SessionContext value={session}>
      <StationPage />
    </SessionContext>
  ) : (
    otherwise
  )
}
