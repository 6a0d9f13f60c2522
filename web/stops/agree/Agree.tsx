import { useNavigate, useParams } from 'react-router'
import { useKeys } from '../../settings/keys'
import { WritesProvider } from '../../saving/writes'
import { nextOf, PartsNav } from '../../parts/PartsNav'
import { Exemplars } from './exemplars/Exemplars'
import { LibraryPart } from './LibraryPart'
import './agree.css'

const PARTS = ['library', 'exemplars'] as const

/** The second stop: the standard that everybody shares, and scripts that everybody reads before the first real one. */
export default function Agree() {
  const { courseId = '', part } = useParams()
  const navigate = useNavigate()
  const shown = PARTS.find((p) => p === part) ?? 'library'
  const base = `/courses/${courseId}/agree`
  useKeys([{ key: ']', does: 'the next part of this stop', run: () => void navigate(`${base}/${nextOf(PARTS, shown)}`) }])
  const nav = <PartsNav of="agreeing" base={base} parts={PARTS} shown={shown} />
  return (
    <WritesProvider courseId={courseId}>
      {shown === 'library' ? <LibraryPart courseId={courseId} nav={nav} /> : <Exemplars courseId={courseId} nav={nav} />}
    </WritesProvider>
  )
}
