import { useDecidedCourse } from '../../course/course'
import { useParts } from '../../parts/useParts'
import { useHeadingAfter } from '../../shell/heading'
import { DiffersPart } from './DiffersPart'
import { OfficePart } from './OfficePart'
import { ReportPart } from './ReportPart'
import { SignPart } from './SignPart'
import { StudentsPart } from './StudentsPart'

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
  const { table } = useDecidedCourse()
  const { shown, nav } = useParts('Confirm', PARTS, ']')
  const Part = SHOWN[shown]
  // Signed or opened again, another page stands here.
  useHeadingAfter(`issue ${table.head.confirmedIssue}`)
  return <Part key={table.head.id} nav={nav} />
}
