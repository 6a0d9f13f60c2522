import { agreeMark, type AgreeRule } from '../agree/agree-mark'
import type { Change } from './changes'
import { readingsOf, type HandedInReading, type Workings } from './workings'

/**
 * Changes that settle scripts by one rule.
 * @param scripts each with its readings, in the order they were handed in
 * @throws AgreeError where a script has no reading or the rule does not fit its readings
 */
export function settleReadings(
  scripts: readonly { scriptId: string; readings: readonly HandedInReading[] }[],
  rule: AgreeRule,
  step: number | null,
): Change[] {
  return scripts.map(({ scriptId, readings }) => ({ kind: 'settle', scriptId, rule, step, mark: agreeMark(readings, rule, step).mark }))
}

/** Changes that settle the scripts in some cells by one rule. @throws AgreeError as `settleReadings` does */
export const settleBy = (
  w: Pick<Workings, 'cells' | 'readings' | 'markerIds'>,
  cells: readonly number[],
  rule: AgreeRule,
  step: number | null,
): Change[] =>
  settleReadings(
    cells.map((cell) => ({ scriptId: w.cells.scriptId(cell), readings: readingsOf(w, cell) })),
    rule,
    step,
  )
