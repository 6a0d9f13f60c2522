import { useCourse } from '../../course/course'
import { useParts } from '../../parts/useParts'
import { ConditionsPart } from './conditions/ConditionsPart'
import { DraftsPart } from './DraftsPart'
import { LinesPart } from './lines/LinesPart'
import { SuggestionsPart } from './suggestions/SuggestionsPart'
import { SurePart } from './sure/SurePart'

const PARTS = ['lines', 'suggested', 'drafts', 'how sure', 'conditions'] as const
type Part = (typeof PARTS)[number]

/** Where the grades begin: the lines, what suggests them, drafts beside each other, how sure they are, and what grades ask for. */
export default function Bound() {
  const { current } = useCourse()
  const { shown, nav } = useParts('Bound', PARTS, '}')
  if (current.students.every((s) => s.final === null))
    return (
      <div className="empty">
        Nobody has a final percent yet, so there is no distribution to draw boundaries on. Clear what is open at Mark and Reconcile first.
      </div>
    )
  const Shown = SHOWN[shown]
  return <Shown nav={nav} />
}

const SHOWN: Record<Part, typeof LinesPart> = {
  lines: LinesPart,
  suggested: SuggestionsPart,
  drafts: DraftsPart,
  'how sure': SurePart,
  conditions: ConditionsPart,
}
