import type { ReactNode } from 'react'
import { useNavigate, useParams } from 'react-router'
import { useRole } from '../../session/useRole'
import { sightOf } from '#core/roles'
import { problemOf } from '../../api/problem-of'
import { useKeys } from '../../settings/keys'
import { WritesProvider } from '../../saving/writes'
import { QuestionsPart } from '../../parts/questions/QuestionsPart'
import { useQuestions } from '../../parts/questions/useQuestions'
import { nextOf, PartsNav } from '../../parts/PartsNav'
import { Box } from './box/Box'
import { useDeliveries } from './box/queries'
import { DeskPart } from './desk/DeskPart'
import { usePiles } from './desk/queries'
import { MarkSheet } from './sheet/MarkSheet'
import { useSheet } from './sheet/queries'
import { Sharing } from './sharing/Sharing'

type Part = 'sheet' | 'desk' | 'sharing out' | 'what came in' | 'asked by students'
const ADDRESS: Record<Part, string> = {
  sheet: 'sheet',
  desk: 'desk',
  'sharing out': 'sharing-out',
  'what came in': 'came-in',
  'asked by students': 'asked',
}

/** The third stop: who reads what, the desk where it is read, and the sheet where marks come in by hand. */
export default function Mark() {
  const { courseId = '', part } = useParams()
  const navigate = useNavigate()
  const role = useRole(courseId)
  const marker = sightOf(role).reads
  const piles = usePiles(courseId, marker)
  const came = useDeliveries(courseId, !!role && !marker)
  const parts: Part[] = marker ? ['desk', 'sheet', 'asked by students'] : ['sheet', 'sharing out', 'what came in']
  const asked = useQuestions(courseId, marker)
  // A marker with something to read begins there.
  const first: Part = marker && (piles.data?.length ?? 0) > 0 ? 'desk' : 'sheet'
  const shown = parts.find((p) => ADDRESS[p] === part) ?? first
  const base = `/courses/${courseId}/mark`
  useKeys([{ key: ']', does: 'the next part of this stop', run: () => void navigate(`${base}/${ADDRESS[nextOf(parts, shown)]}`) }])
  if (!role || (marker && piles.isPending)) return null
  const left = piles.data?.reduce((n, p) => n + p.total - p.handedIn, 0) ?? 0
  const waiting = (asked.data ?? []).filter((q) => q.answer === null).length
  const nav = (
    <PartsNav
      stop="marking"
      base={base}
      parts={parts}
      shown={shown}
      open={{ desk: left, 'what came in': came.data?.counts.waiting ?? 0, 'asked by students': waiting }}
      addresses={ADDRESS}
    />
  )
  if (shown === 'desk') return <DeskPart courseId={courseId} nav={nav} />
  if (shown === 'sharing out')
    return (
      <WritesProvider courseId={courseId}>
        <Sharing courseId={courseId} decides={sightOf(role).decides} nav={nav} />
      </WritesProvider>
    )
  if (shown === 'what came in')
    return (
      <WritesProvider courseId={courseId}>
        <Box courseId={courseId} decides={sightOf(role).decides} nav={nav} />
      </WritesProvider>
    )
  if (shown === 'asked by students')
    return (
      <WritesProvider courseId={courseId}>
        <QuestionsPart courseId={courseId} answers nav={nav} />
      </WritesProvider>
    )
  return <SheetPart courseId={courseId} nav={nav} />
}

function SheetPart({ courseId, nav }: { courseId: string; nav: ReactNode }) {
  const sheet = useSheet(courseId)
  const problem = problemOf(sheet)
  if (problem) return <div className="empty">{problem}</div>
  if (!sheet.data) return <div className="empty">Fetching the mark sheet…</div>
  if (sheet.data.students.length === 0)
    return (
      <div className="work alone">
        <main className="table-side">
          <div className="stop-head">
            <h1>The mark sheet</h1>
            {nav}
          </div>
          <div className="empty">
            {sheet.data.sections.length === 0
              ? 'You teach no section of this course, so there is no sheet of yours. Whoever leads the course can give you one.'
              : 'There is nobody on the roll yet. Bring the students in at Set out, and their marks are typed here.'}
          </div>
        </main>
      </div>
    )
  return <MarkSheet courseId={courseId} sheet={sheet.data} nav={nav} />
}
