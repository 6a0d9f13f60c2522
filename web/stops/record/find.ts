import type { Change, Decision } from '#contract'
import { shownAt } from '../../parts/format'

export interface Asked {
  /** The kind of decision; '' for all. */
  where: string
  /** Who made or withdrew it; '' for all. */
  who: string
  /** A student, a day or a word. */
  words: string
}
export const NOTHING_ASKED: Asked = { where: '', who: '', words: '' }

/** The script that a change is about. */
export const scriptOf = (c: Change): string | null => ('scriptId' in c ? c.scriptId : null)

/** Students whom a decision is about by name: those of its scripts, and those it leaves out. */
export function studentsIn(d: Decision, studentOf: (scriptId: string) => string): string[] {
  return d.changes.flatMap((c) => {
    if (c.kind === 'exclude') return c.studentId
    const script = scriptOf(c)
    return script === null ? [] : studentOf(script)
  })
}

/** Decisions that answer to all that is asked, in their order. */
export function found(
  decisions: readonly Decision[],
  { where, who, words }: Asked,
  namesIn: (d: Decision) => readonly string[],
): Decision[] {
  const wanted = words.trim().toLocaleLowerCase()
  return decisions.filter((d) => {
    if (where !== '' && d.kind !== where) return false
    if (who !== '' && d.by !== who && d.withdrawn?.by !== who) return false
    if (wanted === '') return true
    const said = [d.summary, d.reason, shownAt(d.at, 'd MMM yyyy'), shownAt(d.at, 'd MMMM yyyy'), d.withdrawn?.reason ?? '']
    return said.some((t) => t.toLocaleLowerCase().includes(wanted)) || namesIn(d).some((n) => n.toLocaleLowerCase().includes(wanted))
  })
}
