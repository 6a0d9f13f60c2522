import { stateAt, type StopManifest } from '../../shell/stop'

export const manifest: StopManifest = {
  title: 'Reconcile',
  isFor: (sight) => sight.oversees,
  needs: 'marks',
  load: () => import('./Reconcile'),
  state: (soFar) => stateAt(soFar, 'reconcile', soFar.open.toSettle),
}
