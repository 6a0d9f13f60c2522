import { useSearchParams } from 'react-router'
import { useCourse } from '../../course/course'
import { useKeys } from '../../settings/keys'
import { ConditionsPart } from './conditions/ConditionsPart'
import { DraftsPart } from './DraftsPart'
import { LinesPart } from './lines/LinesPart'
import { SuggestionsPart } from './suggestions/SuggestionsPart'
import { SurePart } from './sure/SurePart'
import './bound.css'

const PARTS = ['lines', 'suggested', 'drafts', 'how sure', 'conditions'] as const
type Part = (typeof PARTS)[number]

/** Where the grades begin: the lines, what suggests them, drafts beside each other, how sure they are, and what grades ask for. */
export default function Bound() {
  const { current } = useCourse()
  const [search, setSearch] = useSearchParams()
  const shown = PARTS.find((p) => p === search.get('part')) ?? 'lines'
  const go = (part: Part) => setSearch(part === 'lines' ? {} : { part }, { replace: true })
  useKeys([{ key: '}', does: 'the next part of this stop', run: () => go(PARTS[(PARTS.indexOf(shown) + 1) % PARTS.length]!) }])
  if (current.students.every((s) => s.final === null))
    return (
      <div className="empty">
        Nobody has a final percent yet, so there is no distribution to draw boundaries on. Clear what is open at Mark and Reconcile first.
      </div>
    )
  const nav = (
    <div className="words-choice end" role="group" aria-label="Parts of Bound">
      {PARTS.map((p) => (
        <button key={p} aria-pressed={p === shown} onClick={() => go(p)}>
          {p}
        </button>
      ))}
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
