import type { StopManifest } from '../../shell/stop'

export const manifest: StopManifest = {
  title: 'Set out',
  isFor: (sight) => sight.oversees,
  needs: 'plan',
  parts: true,
  load: () => import('./SetOut'),
  state: ({ table, odd }) => ({ open: odd, clear: Math.max(0, 1 - odd / (table.components.length + table.assessments.length || 1)) }),
}
