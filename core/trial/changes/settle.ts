import { agreeMark, type AgreeRule } from '../../agree/agree-mark'
import { againBy } from '../../agree/agreed-by'
import { RULE_WORDS } from '../../agree/rule-words'
import { NO_SCRIPT, readingsOf } from '../workings'
import { ChangeError, counted, type ChangeKind } from './kind'

/** One mark for a script that several read. */
export interface Settle {
  kind: 'settle'
  scriptId: string
  rule: AgreeRule
  step: number | null
  mark: number
}

export const settle: ChangeKind<Settle> = {
  decides: 'reconcile',
  word: 'settled',
  target: (c) => c.scriptId,
  apply(draft, c) {
    const cell = draft.cells.ofScript(c.scriptId)
    if (cell < 0) return
    ;(draft.agreed as Map<number, number>).set(cell, c.mark)
    const by = draft.agreedBy as Map<number, AgreeRule>
    if (againBy(c.rule) === null) by.delete(cell)
    else by.set(cell, c.rule)
    ;(draft.reopened as Set<number>).delete(cell)
  },
  check(c, { w, carried, assessments, markOfPicks }) {
    const cell = w.cells.ofScript(c.scriptId)
    if (cell < 0 || w.scripts.there[cell] === NO_SCRIPT) throw new ChangeError('There is no such script.')
    const { outOf } = assessments.get(w.cells.assessmentId(cell))!
    if (c.rule.kind === 'value' && (c.rule.mark < 0 || c.rule.mark > outOf))
      throw new ChangeError(`${c.rule.mark} is outside 0 to ${outOf}.`)
    if (c.rule.kind === 'criteria' && markOfPicks(w.cells.assessmentId(cell), c.rule.picks) !== c.rule.mark)
      throw new ChangeError('What was agreed criterion by criterion gives another mark by now: settle it again.', true)
    if (c.rule.kind === 'levelled' && c.rule.outOf !== outOf)
      throw new ChangeError('What the assessment is marked out of changed meanwhile: settle it again.', true)
    // Agreed marks that are adopted together with what is carried over follow from the marks after it.
    if (agreeMark(readingsOf(carried, cell), c.rule, c.step).mark !== c.mark)
      throw new ChangeError('The readings of a script changed meanwhile: settle it again.', true)
  },
  together: true,
  words(all, { title, ofScript }) {
    const rules = [...new Set(all.map((c) => RULE_WORDS[c.rule.kind]))]
    const of = [...new Set(all.map((c) => title(ofScript(c.scriptId))))]
    return [`${counted(all.length, 'script')} of ${of.join(' and ')} settled by ${rules.join(', ')}`]
  },
}
