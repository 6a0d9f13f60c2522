import { useNavigate, useParams } from 'react-router'
import { sightOf } from '#core/roles'
import { useRole } from '../../session/useRole'
import { useKeys } from '../../settings/keys'
import { WritesProvider } from '../../saving/writes'
import { nextOf, PartsNav } from '../../parts/PartsNav'
import { Exemplars } from './exemplars/Exemplars'
import { LibraryPart } from './LibraryPart'
import { StandingsAhead } from './standings/StandingsAhead'
import { StandingsPart } from './standings/StandingsPart'
import './agree.module.css'

const PARTS = ['library', 'exemplars', 'standings'] as const
/** Markers have no part in what is known of everybody. */
const FOR_MARKERS = ['library', 'exemplars'] as const

/** The second stop: the standard that everybody shares, and scripts that everybody reads before the first real one. */
export default function Agree() {
  const { courseId = '', part } = useParams()
  const navigate = useNavigate()
  const role = useRole(courseId)
  const parts: readonly (typeof PARTS)[number][] = role && sightOf(role).oversees ? PARTS : FOR_MARKERS
  const shown = parts.find((p) => p === part) ?? 'library'
  const base = `/courses/${courseId}/agree`
  useKeys([{ key: ']', does: 'the next part of this stop', run: () => void navigate(`${base}/${nextOf(parts, shown)}`) }])
  const nav = <PartsNav stop="agreeing" base={base} parts={parts} shown={shown} />
  return (
    <WritesProvider courseId={courseId}>
      {shown === 'library' && <LibraryPart courseId={courseId} nav={nav} />}
      {shown === 'exemplars' && <Exemplars courseId={courseId} nav={nav} />}
      {shown === 'standings' ? <StandingsPart nav={nav} /> : parts === PARTS && <StandingsAhead courseId={courseId} />}
    </WritesProvider>
  )
}
