import { useSearchParams } from 'react-router'
import { useCourse } from '../../course/course'
import { useKeys } from '../../settings/keys'
import { DiffersPart } from './DiffersPart'
import { OfficePart } from './OfficePart'
import { ReportPart } from './ReportPart'
import { SignPart } from './SignPart'
import { StudentsPart } from './StudentsPart'
import './confirm.css'

const PARTS = ['sign', 'what differs', 'to students', 'to records', 'report'] as const
type Part = (typeof PARTS)[number]
const SHOWN: Record<Part, typeof SignPart> = {
  sign: SignPart,
  'what differs': DiffersPart,
  'to students': StudentsPart,
  'to records': OfficePart,
  report: ReportPart,
}

/** What is still open, who signs, what an issue changes, and whom it is told to. */
export default function Confirm() {
  const { table } = useCourse()
  const [search, setSearch] = useSearchParams()
  const shown = PARTS.find((p) => p === search.get('part')) ?? 'sign'
  const go = (part: Part) => setSearch(part === 'sign' ? {} : { part }, { replace: true })
  useKeys([{ key: ']', does: 'the next part of this stop', run: () => go(PARTS[(PARTS.indexOf(shown) + 1) % PARTS.length]!) }])
  const nav = (
    <div className="words-choice end no-print" role="group" aria-label="Parts of Confirm">
      {PARTS.map((p) => (
        <button key={p} aria-pressed={p === shown} onClick={() => go(p)}>
          {p}
        </button>
      ))}
    </div>
  )
  const Part = SHOWN[shown]
  return <Part key={table.head.id} nav={nav} />
}
