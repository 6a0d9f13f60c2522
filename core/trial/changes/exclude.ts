import { counted, there, type ChangeKind } from './kind'

/** Leaves one student out of an assessment, or back in. */
export interface Exclude {
  kind: 'exclude'
  assessmentId: string
  studentId: string
  out: boolean
}

export const exclude: ChangeKind<Exclude> = {
  decides: 'plan',
  word: 'left out',
  target: (c) => `${c.assessmentId} ${c.studentId}`,
  apply(draft, { assessmentId, studentId, out }) {
    const { [assessmentId]: were = [], ...others } = draft.leftOut
    const left = were.filter((id) => id !== studentId)
    if (out) left.push(studentId)
    draft.leftOut = left.length > 0 ? { ...others, [assessmentId]: left } : others
  },
  check(c, { assessments, students }) {
    there(assessments, c.assessmentId, 'assessment')
    there(students, c.studentId, 'student on the roll')
  },
  together: true,
  words: (all, { title }) =>
    [true, false].flatMap((out) => {
      const these = all.filter((c) => c.out === out)
      return [...new Set(these.map((c) => c.assessmentId))].map((id) => {
        const n = these.filter((c) => c.assessmentId === id).length
        return `${counted(n, 'student')} ${out ? 'left out of' : 'taken back into'} ${title(id)}`
      })
    }),
}
