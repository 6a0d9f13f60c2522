import type { StopManifest } from '../../shell/stop'

export const manifest: StopManifest = {
  title: 'Compare',
  isFor: (sight) => sight.oversees,
  needs: 'marks',
  load: () => import('./Compare'),
  state: ({ table }) => ({ open: 0, clear: table.hasMarks ? 1 : 0 }),
}
