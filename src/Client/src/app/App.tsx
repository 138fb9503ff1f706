import { useQuery } from '@tanstack/react-query'
import { useCallback, useMemo } from 'react'
import { Navigate, Route, Routes, useLocation, useParams } from 'react-router'
import { ApiError } from '../kit/api'
import { Failure, Loading } from '../kit/parts'
import { houseQuery, meQuery, nobody, SessionContext, sessionOf, useStands } from '../kit/session'
import type { Schemas } from '../kit/api'
import { Fetched } from './Fetched'
import { Frame } from './Frame'
import { PhoneCodeFirst } from './PhoneCodeFirst'
import {
  AskPage,
  SoonestPage,
  BookingsPage,
  CalendarsPage,
  JobsPage,
  CalculatorsPage,
  ConductPage,
  DrawingsPage,
  ExchangePage,
  FiguresPage,
  FixturesPage,
  HeadCountPage,
  HousePage,
  IdentifyPage,
  IncidentFilesPage,
  IncidentPage,
  IncidentsPage,
  InductionsPage,
  InvitePage,
  LadderPage,
  MachinesPage,
  MaterialPage,
  MaterialsPage,
  MyPage,
  PathsPage,
  PracticalPage,
  QuestionsPage,
  QuizPage,
  ReadingPage,
  RecordsPage,
  RequestsPage,
  ReviewPage,
  SettingsPage,
  SheetDesk,
  SheetPage,
  StationKept,
  StationPage,
  TellPage,
  RunTimesPage,
  TestPiecesPage,
  TrainingPage,
  RoundPage,
  StockPage,
  UpkeepPage,
  UsePage,
  WatchPage,
} from './rooms'
import { SetUp } from './SetUp'
import { SignIn } from './SignIn'

/** Signed out: the door. Signed in: the frame with its rooms. */
export function App() {
  const { pathname } = useLocation()
  const me = useQuery(meQuery)
  const house = useQuery(houseQuery)
  const session = useMemo(
    () => (me.data && house.data ? sessionOf(me.data, house.data, house.dataUpdatedAt) : null),
    [me.data, house.data, house.dataUpdatedAt],
  )
  const { refetch: askMe } = me
  const { refetch: askHouse } = house
  const again = useCallback(() => void Promise.all([askMe(), askHouse()]), [askMe, askHouse])
  if (house.error instanceof ApiError && house.error.problem.code === 'house.noRules') return <SetUp />
  // A page of its own, signed in or not: whoever holds the link may be somebody else.
  if (pathname.startsWith('/invite'))
    return (
      <Fetched>
        <Routes>
          <Route path="/invite/:code?" element={<InvitePage />} />
        </Routes>
      </Fetched>
    )
  if (me.error instanceof ApiError && me.error.problem.status === 401)
    return (
      <Routes>
        <Route path="/sheets/:tag" element={<Outside />} />
        {house.data && (
          <Route path="/station/:machine" element={<StationOutside house={house.data} since={house.dataUpdatedAt} />} />
        )}
        <Route path="*" element={<SignIn />} />
      </Routes>
    )
  if (me.isError || house.isError) {
    const failed = (
      <main className="door">
        <Failure error={me.error ?? house.error} retry={again} />
      </main>
    )
    return (
      <Fetched>
        <Routes>
          <Route path="/station/:machine" element={<StationKept again={again} otherwise={failed} />} />
          <Route path="*" element={failed} />
        </Routes>
      </Fetched>
    )
  }
  if (!session)
    return (
      <main className="door">
        <Loading what="the house" />
      </main>
    )
  return (
    <SessionContext value={session}>
      {session.me.factorOwed ? (
        <PhoneCodeFirst />
      ) : pathname.startsWith('/station/') ? (
        // A screen of its own beside the machine: no rail, nothing to press by chance.
        <Fetched>
          <Routes>
            <Route path="/station/:machine" element={<StationPage />} />
          </Routes>
        </Fetched>
      ) : (
        <Frame>
          <Fetched key={pathname.split('/')[1]}>
            <Routes>
              <Route path="/watch" element={<WatchPage />} />
              <Route path="/ask" element={<AskPage />} />
              <Route path="/bookings/soonest" element={<SoonestPage />} />
              <Route path="/materials" element={<MaterialsPage />} />
              <Route path="/materials/calculators" element={<CalculatorsPage />} />
              <Route path="/materials/calculators/:name" element={<CalculatorsPage />} />
              <Route path="/materials/settings" element={<SettingsPage />} />
              <Route path="/materials/test-pieces" element={<TestPiecesPage />} />
              <Route path="/machines/:id/run-times" element={<RunTimesPage />} />
              <Route path="/materials/files" element={<ExchangePage />} />
              <Route path="/materials/requests" element={<RequestsPage />} />
              <Route path="/materials/:id" element={<MaterialPage />} />
              <Route path="/identify" element={<IdentifyPage />} />
              <Route path="/sheets" element={<SheetDesk />} />
              <Route path="/sheets/:tag" element={<SheetPage />} />
              <Route path="/training" element={<TrainingPage />} />
              <Route path="/training/ladder" element={<LadderPage />} />
              <Route path="/training/read/:id" element={<ReadingPage />} />
              <Route path="/training/quiz/:attempt" element={<QuizPage />} />
              <Route path="/training/questions" element={<QuestionsPage />} />
              <Route path="/training/paths" element={<PathsPage />} />
              <Route path="/training/inductions" element={<InductionsPage />} />
              <Route path="/training/practical/:id" element={<PracticalPage />} />
              <Route path="/training/review" element={<ReviewPage />} />
              <Route path="/training/conduct/:person" element={<ConductPage />} />
              <Route path="/drawings" element={<DrawingsPage />} />
              <Route path="/drawings/:id" element={<DrawingsPage />} />
              {/* The room was called Bench; links of then still lead here. */}
              <Route path="/bench/:id?" element={<OldDrawings />} />
              <Route path="/bookings" element={<BookingsPage />} />
              <Route path="/bookings/jobs" element={<JobsPage />} />
              <Route path="/bookings/calendars" element={<CalendarsPage />} />
              <Route path="/bookings/fixtures" element={<FixturesPage />} />
              <Route path="/bookings/use" element={<UsePage />} />
              <Route path="/machines" element={<MachinesPage />} />
              <Route path="/upkeep" element={<UpkeepPage />} />
              <Route path="/upkeep/round" element={<RoundPage />} />
              <Route path="/upkeep/stock" element={<StockPage />} />
              <Route path="/incidents" element={<IncidentsPage />} />
              <Route path="/incidents/tell" element={<TellPage />} />
              <Route path="/incidents/figures" element={<FiguresPage />} />
              <Route path="/incidents/files" element={<IncidentFilesPage />} />
              <Route path="/incidents/head-count" element={<HeadCountPage />} />
              <Route path="/incidents/:id" element={<IncidentPage />} />
              <Route path="/records" element={<RecordsPage />} />
              <Route path="/house" element={<HousePage />} />
              <Route path="/house/:part" element={<HousePage />} />
              <Route path="/me" element={<MyPage />} />
              <Route path="*" element={<Navigate to="/watch" replace />} />
            </Routes>
          </Fetched>
        </Frame>
      )}
    </SessionContext>
  )
}

/** What anybody may see of a sheet who reads its code. */
const Outside = () => (
  <main className="outside">
    <Fetched>
      <SheetPage />
    </Fetched>
  </main>
)

/** A screen that stands at a machine: nobody is signed in on it. */
function StationOutside({ house, since }: { house: Schemas['HouseResponse']; since: number }) {
  const { machine = '' } = useParams()
  const stands = useStands(machine)
  const session = useMemo(() => sessionOf(nobody, house, since), [house, since])
  return stands.isPending ? (
    <main className="door">
      <Loading what="the machine" />
    </main>
  ) : stands.data ? (
    <SessionContext value={session}>
      <Fetched>
        <StationPage />
      </Fetched>
    </SessionContext>
  ) : (
    <SignIn />
  )
}

function OldDrawings() {
  const { id } = useParams()
  return <Navigate to={id ? `/drawings/${id}` : '/drawings'} replace />
}
