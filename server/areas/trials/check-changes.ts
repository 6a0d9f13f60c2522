import { isDeepStrictEqual } from 'node:util'
import { AgreeError } from '#core/agree'
import { AdjustmentError } from '#core/rescale'
import { ChangeError, checkChanges as check, type Change, type Fits, type Workings } from '#core/trial'
import type { CourseTable } from '#contract'
import { HttpProblem } from '../../kernel/problem'
import { summarise } from './summarise'

/** Refuses changes that do not fit the course, with a sentence for the first one that does not. */
export function checkChanges(
  table: CourseTable,
  w: Workings,
  changes: Change[],
  {
    carriedOver,
    ...own
  }: { carriedOver: (assessmentId: string, standardId: string) => Change[] } & Pick<Fits, 'markOfPicks' | 'rereadNow'>,
): void {
  const fits: Omit<Fits, 'carried' | 'after'> = {
    w,
    assessments: new Map(table.assessments.map((a) => [a.id, a])),
    sections: new Set(table.sections.map((s) => s.id)),
    components: new Set(table.components.map((c) => c.id)),
    students: new Set(table.students.map((s) => s.id)),
    adjustments: new Set([...w.adjustments.map((a) => a.id), ...changes.flatMap((c) => (c.kind === 'adjust' ? c.adjustment.id : []))]),
    above100: table.policy.above100,
    markers: new Set(w.markerIds),
    ...own,
    carriesNow: (c) => carriedOver(c.assessmentId, c.standardId).some((x) => isDeepStrictEqual(x, c)),
  }
  check(changes, fits, (at, e) => {
    if (!(e instanceof ChangeError || e instanceof AgreeError || e instanceof AdjustmentError)) throw e
    const which = changes.length > 1 ? `${summarise([changes[at]!], table, w)}: ${e.message}` : e.message
    throw new HttpProblem(e instanceof ChangeError && e.stale ? 409 : 422, which, { field: `changes.${at}` })
  })
}
