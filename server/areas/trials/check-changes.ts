import { isDeepStrictEqual } from 'node:util'
import { agreeMark, AgreeError } from '#core/agree'
import { checkBoundaries } from '#core/grades'
import { adjuster, AdjustmentError } from '#core/rescale'
import { applyChanges, NO_SCRIPT, readingsOf, type Workings } from '#core/trial'
import type { Change, CourseTable } from '#contract'
import { HttpProblem } from '../../kernel/problem'

/** Refuses changes that do not fit the course, with a sentence for the first one that does not. */
export function checkChanges(
  table: CourseTable,
  w: Workings,
  changes: Change[],
  carriedOver: (assessmentId: string, standardId: string) => Change[],
): void {
  const carries = changes.filter((c) => c.kind === 'carry')
  // Agreed marks that are adopted together with what is carried over follow from the marks after it.
  const carried = applyChanges(w, carries)
  const assessments = new Map(table.assessments.map((a) => [a.id, a]))
  const sections = new Set(table.sections.map((s) => s.id))
  const components = new Set(table.components.map((c) => c.id))
  const students = new Set(table.students.map((s) => s.id))
  const stack = new Set([...w.adjustments.map((a) => a.id), ...changes.flatMap((c) => (c.kind === 'adjust' ? c.adjustment.id : []))])
  for (const [i, c] of changes.entries()) {
    const refuse = (detail: string): never => {
      throw new HttpProblem(422, detail, { field: `changes.${i}` })
    }
    switch (c.kind) {
      case 'settle': {
        const cell = w.cells.ofScript(c.scriptId)
        if (cell < 0 || w.scripts.there[cell] === NO_SCRIPT) refuse('There is no such script.')
        const assessment = assessments.get(w.cells.assessmentId(cell))!
        if (c.rule.kind === 'value' && (c.rule.mark < 0 || c.rule.mark > assessment.outOf))
          refuse(`${c.rule.mark} is outside 0 to ${assessment.outOf}.`)
        const { mark } = orRefuse(() => agreeMark(readingsOf(carried, cell), c.rule, c.step), refuse)
        if (mark !== c.mark)
          throw new HttpProblem(409, 'The readings of a script changed meanwhile: settle it again.', { field: `changes.${i}` })
        break
      }
      case 'adjust': {
        const a = c.adjustment
        const assessment = assessments.get(a.assessmentId) ?? refuse('There is no such assessment.')
        if (a.outOf !== assessment.outOf) refuse(`${assessment.title} is marked out of ${assessment.outOf}, not ${a.outOf}.`)
        if (a.sectionIds?.some((s) => !sections.has(s))) refuse('There is no such section.')
        orRefuse(() => adjuster(a, [0]), refuse)
        break
      }
      case 'switch':
        if (!stack.has(c.adjustmentId)) refuse('There is no such adjustment (any more).')
        break
      case 'bound': {
        const finding = checkBoundaries(c.boundaries, table.policy.above100)[0]
        if (finding) refuse(finding.message)
        break
      }
      case 'weigh':
      case 'shape':
        if (!components.has(c.componentId)) refuse('There is no such component.')
        break
      case 'assess':
        if (!assessments.has(c.assessmentId)) refuse('There is no such assessment.')
        if (c.patch.componentId !== undefined && !components.has(c.patch.componentId)) refuse('There is no such component.')
        break
      case 'take away':
        if (!assessments.has(c.assessmentId)) refuse('There is no such assessment (any more).')
        break
      case 'exclude':
        if (!assessments.has(c.assessmentId)) refuse('There is no such assessment.')
        if (!students.has(c.studentId)) refuse('There is no such student on the roll.')
        break
      case 'policy':
        break
      case 'carry': {
        if (!assessments.has(c.assessmentId)) refuse('There is no such assessment.')
        const now = carriedOver(c.assessmentId, c.standardId).find((x) => x.kind === 'carry')
        if (!now || !isDeepStrictEqual(now, c))
          throw new HttpProblem(409, 'Readings or their rubric changed meanwhile: carry them over again.', { field: `changes.${i}` })
        break
      }
    }
  }
}

function orRefuse<T>(work: () => T, refuse: (detail: string) => never): T {
  try {
    return work()
  } catch (e) {
    if (e instanceof AgreeError || e instanceof AdjustmentError) return refuse(e.message)
    throw e
  }
}
