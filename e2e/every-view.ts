/** Every page of a lead, under its course. */
export const VIEWS = [
  'set-out/roll',
  'set-out/plan',
  'set-out/placements',
  'agree/library',
  'agree/exemplars',
  'mark',
  'mark/sharing-out',
  'mark/came-in',
  'compare',
  'reconcile',
  'rescale',
  'bound',
  'confirm',
  'record',
  'post',
  'students/cfs214-2026-student-12',
]
