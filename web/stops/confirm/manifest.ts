import type { StopManifest } from '../../shell/stop'

export const manifest: StopManifest = {
  title: 'Confirm',
  isFor: (sight) => sight.oversees,
  needs: 'marks',
  load: () => import('./Confirm'),
  state: ({ table, adopted }) => {
    if (table.head.confirmedIssue !== null) return { open: 0, clear: 1 }
    const finals = adopted.students.filter((s) => s.final !== null).length
    return { open: table.students.length - finals, clear: 0 }
  },
}
