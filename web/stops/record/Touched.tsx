import { useMemo, useState } from 'react'
import { Link } from 'react-router'
import { RULE_WORDS } from '#core/agree'
import { changesInWords } from '#core/trial'
import type { Change, Decision } from '#contract'
import { useDecidedCourse } from '../../course/course'
import { usePersonLabels } from '../../settings/names'
import { counted, numeral } from '../../parts/format'
import { scriptOf } from './find'

const AT_ONCE = 12

/** What a decision touched: its scripts, each with the mark, by which rule and why; and everything else it says, line by line. */
export function Touched({ decision }: { decision: Decision }) {
  const { id, table } = useDecidedCourse()
  const label = usePersonLabels(table.students)
  const [shown, setShown] = useState(AT_ONCE)
  const partsOf = useScriptParts()
  const title = (of: string) => [...table.assessments, ...table.components].find((x) => x.id === of)?.title ?? 'what is no longer there'
  const scripts = decision.changes.filter((c) => scriptOf(c) !== null)
  const others = decision.changes.filter((c) => scriptOf(c) === null)
  const called = {
    title,
    section: (of: string) => table.sections.find((s) => s.id === of)?.name ?? of,
    marker: (of: string) => table.markers.find((m) => m.id === of)?.name ?? of,
    ofScript: (of: string) => partsOf(of)?.assessmentId ?? of,
    adjustments: table.adjustments,
  }
  if (decision.changes.length === 0) return null
  return (
    <>
      {others.length > 0 && scripts.length + others.length > 1 && (
        <ul className="people small">
          {others.slice(0, shown).map((c, i) => (
            <li key={i}>
              {changesInWords([c], called)}
              {c.kind === 'exclude' && <Link to={`/courses/${id}/students/${c.studentId}`}>{label(c.studentId)}</Link>}
            </li>
          ))}
        </ul>
      )}
      {scripts.length > 0 && (
        <ul className="people small" aria-label={counted(scripts.length, 'script')}>
          {scripts.slice(0, shown).map((c) => {
            const of = partsOf(scriptOf(c)!)
            return (
              <li key={scriptOf(c)}>
                <span>
                  {of ? <Link to={`/courses/${id}/students/${of.studentId}`}>{label(of.studentId)}</Link> : 'nobody on the roll'}
                  <span className="soft"> {of && title(of.assessmentId)}</span>
                </span>
                <span className="text-end">{saidOf(c)}</span>
              </li>
            )
          })}
        </ul>
      )}
      {Math.max(scripts.length, others.length) > shown && (
        <button className="quiet-button" onClick={() => setShown((n) => n + 100)}>
          Show more of {Math.max(scripts.length, others.length)}
        </button>
      )}
    </>
  )
}

/** What became of one script. */
function saidOf(c: Change) {
  if (c.kind !== 'settle') return 'opened again'
  const reason = c.rule.kind === 'value' || c.rule.kind === 'criteria' ? c.rule.reason : ''
  return (
    <>
      <b className="number">{numeral(c.mark)}</b> by {RULE_WORDS[c.rule.kind]}
      {reason && <span className="soft d-block">{reason}</span>}
    </>
  )
}

/** The student and the assessment of a script, by its id. */
export function useScriptParts(): (scriptId: string) => { studentId: string; assessmentId: string } | null {
  const { table } = useDecidedCourse()
  return useMemo(() => {
    const known = new Set(table.students.map((s) => s.id))
    return (scriptId) => {
      const a = table.assessments.find((x) => scriptId.startsWith(`${x.id}:`) && known.has(scriptId.slice(x.id.length + 1)))
      return a ? { assessmentId: a.id, studentId: scriptId.slice(a.id.length + 1) } : null
    }
  }, [table.students, table.assessments])
}
