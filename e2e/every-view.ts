export interface View {
  /** Under its course. */
  path: string
  /** What stands at its head. */
  heading: string
  /** It is looked at in every theme and width for others that are built alike. */
  template?: true
}

/** Every page of a lead. */
export const VIEWS: readonly View[] = [
  { path: 'set-out', heading: 'What counts, and how much', template: true },
  { path: 'set-out/roll', heading: 'Who is taught', template: true },
  { path: 'set-out/placements', heading: 'When everything is due' },
  { path: 'set-out/people', heading: 'Who has a part here' },
  { path: 'set-out/course', heading: 'The course', template: true },
  { path: 'agree', heading: 'A map for a reader', template: true },
  { path: 'agree/exemplars', heading: 'Exemplars' },
  { path: 'agree/standings', heading: 'Who stands where', template: true },
  { path: 'mark', heading: 'The mark sheet', template: true },
  { path: 'mark/sharing-out', heading: 'Who reads what', template: true },
  { path: 'mark/came-in', heading: 'What came in' },
  { path: 'post', heading: 'The post' },
  { path: 'compare', heading: 'Are the sections on one level?', template: true },
  { path: 'compare?rows=markers&of=cfs214-2026-map', heading: 'Do the markers hold one standard?', template: true },
  { path: 'compare?rows=criteria&of=cfs214-2026-map', heading: 'Does every criterion tell scripts apart?' },
  { path: 'compare?rows=years&of=course', heading: 'Is this year like the last?' },
  { path: 'reconcile', heading: '38 scripts to settle', template: true },
  { path: 'reconcile?part=look-next', heading: 'Where to look next' },
  { path: 'reconcile?part=asked', heading: '1 question waits for an answer', template: true },
  { path: 'rescale', heading: 'Traverse closure', template: true },
  { path: 'bound', heading: 'Where do the grades begin?', template: true },
  { path: 'bound?part=suggested', heading: 'Where is nobody near a line?' },
  { path: 'bound?part=drafts', heading: 'Which of these?' },
  { path: 'bound?part=how sure', heading: 'How sure are the grades?' },
  { path: 'bound?part=conditions', heading: 'What does a grade ask for beside its percent?', template: true },
  { path: 'confirm', heading: 'What is still open', template: true },
  { path: 'confirm?part=what differs', heading: 'What differs?' },
  { path: 'confirm?part=to students', heading: 'When do students see it?' },
  { path: 'confirm?part=to records', heading: 'Handing over to the records office' },
  { path: 'confirm?part=report', heading: 'Report for the board', template: true },
  { path: 'record', heading: 'The record', template: true },
  { path: 'students/cfs214-2026-student-12', heading: 'Nils Adomako', template: true },
]
