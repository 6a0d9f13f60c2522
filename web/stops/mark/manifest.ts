import { stateAt, type StopManifest } from '../../shell/stop'

export const manifest: StopManifest = {
  title: 'Mark',
  isFor: (sight) => sight.oversees || sight.reads,
  needs: 'plan',
  parts: true,
  load: () => import('./Mark'),
  state: (soFar) => stateAt(soFar, 'mark', soFar.open.scripts),
}
