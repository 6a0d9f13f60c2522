import type { ComponentType } from 'react'
import type { Sight } from '#core/roles'
import type { Stop } from '#core/trial'
import type { CourseResult } from '#core/grades'
import type { TablePlan } from '#contract'
import type { Adopted } from '../course/store'

/** What is open at a stop, and how far its work is clear. */
export interface StopState {
  open: number
  /** 0..1 of the stop's work that is clear. */
  clear: number
}

/** What the state of a stop is told from. */
export interface SoFar {
  table: TablePlan
  adopted: CourseResult
  open: Pick<Adopted, 'items' | 'scripts' | 'toSettle'>
  /** What is to be looked at in the plan and the placements. */
  odd: number
}

/** Everything that the frame needs to know of a stop. */
export interface StopManifest {
  title: string
  /** Who may enter. */
  isFor: (sight: Sight) => boolean
  /** What it stands on: the plan alone, which is there at once, or every mark. */
  needs: 'plan' | 'marks'
  /** It falls into parts with addresses of their own. */
  parts?: true
  load: () => Promise<{ default: ComponentType<object> }>
  state: (soFar: SoFar) => StopState
}

const openAt = ({ open }: SoFar, stop: Stop): number => open.items.filter((i) => i.stop === stop).reduce((n, i) => n + i.count, 0)

/** The state of a stop whose work is what is open there. @param of how much there is to clear in all */
export function stateAt(soFar: SoFar, stop: Stop, of: number): StopState {
  const open = openAt(soFar, stop)
  return { open, clear: Math.max(0, 1 - open / (of || 1)) }
}
