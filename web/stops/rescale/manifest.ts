import type { StopManifest } from '../../shell/stop'

export const manifest: StopManifest = {
  title: 'Rescale',
  isFor: (sight) => sight.oversees,
  needs: 'marks',
  load: () => import('./Rescale'),
  state: ({ table }) => ({ open: 0, clear: table.hasMarks ? 1 : 0 }),
}
