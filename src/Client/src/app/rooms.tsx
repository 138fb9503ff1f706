import { lazy, type ComponentType } from 'react'

/** The pages of each room, fetched once somebody goes there. */
const rooms = {
  booking: () => import('../booking/pages'),
  drawings: () => import('../drawings/pages'),
  gate: () => import('../gate/pages'),
  house: () => import('../house/pages'),
  incidents: () => import('../incidents/pages'),
  ledger: () => import('../ledger/pages'),
  station: () => import('../station/pages'),
  settings: () => import('../settings/pages'),
  materials: () => import('../materials/pages'),
  reports: () => import('../reports/pages'),
  people: () => import('../people/pages'),
  training: () => import('../training/pages'),
  upkeep: () => import('../upkeep/pages'),
  watch: () => import('../watch/pages'),
}

const page = <Name extends string>(room: () => Promise<Record<Name, ComponentType>>, name: Name) =>
  lazy(async () => ({ default: (await room())[name] }))

export const StationKept = lazy(async () => ({ default: (await rooms.station()).StationKept }))
export const StationPage = page(rooms.station, 'StationPage')
export const AskPage = page(rooms.gate, 'AskPage')
export const SoonestPage = page(rooms.gate, 'SoonestPage')
export const BookingsPage = page(rooms.booking, 'BookingsPage')
export const JobsPage = page(rooms.booking, 'JobsPage')
export const CalendarsPage = page(rooms.booking, 'CalendarsPage')
export const CalculatorsPage = page(rooms.settings, 'CalculatorsPage')
export const ConductPage = page(rooms.people, 'ConductPage')
export const DrawingsPage = page(rooms.drawings, 'DrawingsPage')
export const ExchangePage = page(rooms.materials, 'ExchangePage')
export const FiguresPage = page(rooms.incidents, 'FiguresPage')
export const FixturesPage = page(rooms.booking, 'FixturesPage')
export const HeadCountPage = page(rooms.incidents, 'HeadCountPage')
export const HousePage = page(rooms.house, 'HousePage')
export const IdentifyPage = page(rooms.materials, 'IdentifyPage')
export const IncidentFilesPage = page(rooms.incidents, 'IncidentFilesPage')
export const IncidentPage = page(rooms.incidents, 'IncidentPage')
export const IncidentsPage = page(rooms.incidents, 'IncidentsPage')
export const InductionsPage = page(rooms.training, 'InductionsPage')
export const InvitePage = page(rooms.people, 'InvitePage')
export const LadderPage = page(rooms.training, 'LadderPage')
export const MachinesPage = page(rooms.house, 'MachinesPage')
export const MaterialPage = page(rooms.materials, 'MaterialPage')
export const MaterialsPage = page(rooms.materials, 'MaterialsPage')
export const MyPage = page(rooms.people, 'MyPage')
export const PathsPage = page(rooms.training, 'PathsPage')
export const PracticalPage = page(rooms.training, 'PracticalPage')
export const QuestionsPage = page(rooms.training, 'QuestionsPage')
export const QuizPage = page(rooms.training, 'QuizPage')
export const ReadingPage = page(rooms.training, 'ReadingPage')
export const RecordsPage = page(rooms.ledger, 'RecordsPage')
export const RequestsPage = page(rooms.materials, 'RequestsPage')
export const ReviewPage = page(rooms.training, 'ReviewPage')
export const SettingsPage = page(rooms.settings, 'SettingsPage')
export const SheetDesk = page(rooms.materials, 'SheetDesk')
export const SheetPage = page(rooms.materials, 'SheetPage')
export const TellPage = page(rooms.incidents, 'TellPage')
export const RunTimesPage = page(rooms.settings, 'RunTimesPage')
export const TestPiecesPage = page(rooms.settings, 'TestPiecesPage')
export const TrainingPage = page(rooms.training, 'TrainingPage')
export const UpkeepPage = page(rooms.upkeep, 'UpkeepPage')
export const RoundPage = page(rooms.upkeep, 'RoundPage')
export const StockPage = page(rooms.upkeep, 'StockPage')
export const UsePage = page(rooms.reports, 'UsePage')
export const WatchPage = page(rooms.watch, 'WatchPage')
