import type { Stop } from '#core/trial'
import type { Course } from '../course/course'

export const STOPS: { stop: Stop; title: string }[] = [
  { stop: 'set-out', title: 'Set out' },
  { stop: 'agree', title: 'Agree' },
  { stop: 'mark', title: 'Mark' },
  { stop: 'compare', title: 'Compare' },
  { stop: 'reconcile', title: 'Reconcile' },
  { stop: 'rescale', title: 'Rescale' },
  { stop: 'bound', title: 'Bound' },
  { stop: 'confirm', title: 'Confirm' },
]

/** Kinds a stop may have open, so that its dot can be filled as far as it is clear. */
export interface StopState {
  open: number
  /** 0..1 of the stop's work that is clear. */
  clear: number
}

/**
 * What is open at each stop, and how far it is clear.
 * @param odd what is to be looked at in the plan and the placements
 */
export function stopStates(
  { table, adopted, open: { items, scripts, toSettle } }: Pick<Course, 'table' | 'adopted' | 'open'>,
  odd = 0,
): Record<Stop, StopState> {
  const open = (stop: Stop) => items.filter((i) => i.stop === stop).reduce((n, i) => n + i.count, 0)
  const finals = adopted.students.filter((s) => s.final !== null).length
  const students = table.students.length || 1
  const state = (stop: Stop, of: number): StopState => ({ open: open(stop), clear: Math.max(0, 1 - open(stop) / of) })
  const confirmed = table.head.confirmedIssue !== null
  return {
    'set-out': { open: odd, clear: Math.max(0, 1 - odd / (table.components.length + table.assessments.length || 1)) },
    agree: {
      open: 0,
      clear: table.assessments.every((a) => a.marking === 'direct' || a.marking === 'completion' || a.standardId) ? 1 : 0.5,
    },
    mark: state('mark', scripts || 1),
    compare: { open: 0, clear: table.hasMarks ? 1 : 0 },
    reconcile: state('reconcile', toSettle || 1),
    rescale: { open: 0, clear: table.hasMarks ? 1 : 0 },
    bound: state('bound', 1),
    confirm: { open: confirmed ? 0 : students - finals, clear: confirmed ? 1 : 0 },
  }
}
