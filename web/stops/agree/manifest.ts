import { standardOf } from '#core/marking'
import type { StopManifest } from '../../shell/stop'

export const manifest: StopManifest = {
  title: 'Agree',
  isFor: (sight) => sight.oversees || sight.reads,
  needs: 'marks',
  parts: true,
  load: () => import('./Agree'),
  state: ({ table }) => ({
    open: 0,
    clear: table.assessments.every((a) => standardOf(a.marking) === null || a.standardId) ? 1 : 0.5,
  }),
}
