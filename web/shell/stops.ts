import type { Stop } from '#core/trial'
import { manifest as agree } from '../stops/agree/manifest'
import { manifest as bound } from '../stops/bound/manifest'
import { manifest as compare } from '../stops/compare/manifest'
import { manifest as confirm } from '../stops/confirm/manifest'
import { manifest as mark } from '../stops/mark/manifest'
import { manifest as reconcile } from '../stops/reconcile/manifest'
import { manifest as rescale } from '../stops/rescale/manifest'
import { manifest as setOut } from '../stops/set-out/manifest'
import type { SoFar, StopManifest, StopState } from './stop'

/** The eight stops, in the order of the run. */
export const STOPS: Record<Stop, StopManifest> = {
  'set-out': setOut,
  agree,
  mark,
  compare,
  reconcile,
  rescale,
  bound,
  confirm,
}
export const RUN = Object.keys(STOPS) as Stop[]
export const isStop = (name: string | undefined): name is Stop => name !== undefined && Object.hasOwn(STOPS, name)

/** What is open at each stop, and how far it is clear. */
export const stopStates = (soFar: SoFar): Record<Stop, StopState> =>
  Object.fromEntries(RUN.map((stop) => [stop, STOPS[stop].state(soFar)])) as Record<Stop, StopState>

/** Pages beside the stops that stand on the plan alone. */
const LIGHT = new Set(['post', 'judging', '', undefined])
/** Whether the page at an address needs the marks; Set out opens where no stop is named. */
export function needsMarks(pathname: string): boolean {
  const name = pathname.split('/')[3]
  return isStop(name) ? STOPS[name].needs === 'marks' : !LIGHT.has(name)
}
