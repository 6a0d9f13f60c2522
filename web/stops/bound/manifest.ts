import { stateAt, type StopManifest } from '../../shell/stop'

export const manifest: StopManifest = {
  title: 'Bound',
  isFor: (sight) => sight.oversees,
  needs: 'marks',
  load: () => import('./Bound'),
  state: (soFar) => stateAt(soFar, 'bound', 1),
}
