import { useEffect, useMemo } from 'react'
import type { SheetByCell } from '#contract'
import { counted } from '../../../parts/format'
import { useSaved } from '../../../saving/saved'

type ByCell<T> = ReadonlyMap<string, T>

/**
 * Cells that are not saved: they are there again when one comes back to the sheet, and are not called saved meanwhile.
 * @returns how many, and the last of them in words: one has gone on to the next cell by the time that one is refused
 */
export function useFaults(
  refused: ByCell<{ message: string }>,
  wrong: ByCell<{ reason: string }>,
  assessments: SheetByCell['assessments'],
  label: (studentId: string) => string,
): { faults: number; lastFault: string } {
  const { hold } = useSaved()
  const faults = wrong.size + refused.size
  useEffect(
    () => hold('mark sheet', faults > 0 ? { what: `${counted(faults, 'cell')} of the mark sheet`, lost: false } : null),
    [hold, faults],
  )
  const lastFault = useMemo(() => {
    const [of, reason] =
      [...[...refused].map(([k, r]) => [k, r.message] as const), ...[...wrong].map(([k, w]) => [k, w.reason] as const)].at(-1) ?? []
    if (of === undefined) return ''
    const [studentId, assessmentId] = of.split(' ')
    return `Not saved: ${assessments.find((a) => a.id === assessmentId)?.title ?? ''}, ${label(studentId!)}. ${reason}`
  }, [refused, wrong, assessments, label])
  return { faults, lastFault }
}
