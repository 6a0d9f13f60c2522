import { moveFrom, type Stay, type Term } from '#core/roll'
import { routes, type RollSection, type RollStudent } from '#contract'
import type { z } from 'zod'
import { useTrial } from '../../../course/trial'
import { ask } from '../../../saving/ask'
import { useWrites } from '../../../saving/writes'
import { today } from '../../../parts/format'
import { useAhead, useLatest, withRow } from '../latest'

export type SectionPatch = Omit<z.input<typeof routes.editSection.body>, 'version'>
export type StudentPatch = Omit<z.input<typeof routes.editStudent.body>, 'version'>

/** Today where it lies in the term, else the term's first day: from when a change of the roll counts. */
export function dayFor(term: Term): string {
  const now = today()
  return now >= term.firstDay && now <= term.lastDay ? now : term.firstDay
}

/** Ways to edit the roll; each saves at once and can be undone. */
export function useRollEdits() {
  const { courseId, mayDecide } = useTrial()
  const { write } = useWrites()
  const latest = useLatest()
  const ahead = useAhead()

  // The version that comes back is the one the next write in the queue must name.
  const patchSection = (id: string, patch: SectionPatch) =>
    ask(
      routes.editSection,
      () => {
        const { version } = latest('roll').sections.find((s) => s.id === id)!
        return { params: { courseId, sectionId: id }, body: { version, ...patch } }
      },
      (done) => ahead('roll', (now) => ({ ...now, sections: withRow(now.sections, id, done) })),
    )
  const patchStudent = (id: string, patch: StudentPatch) =>
    ask(
      routes.editStudent,
      () => {
        const { version } = latest('roll').students.find((s) => s.id === id)!
        return { params: { courseId, studentId: id }, body: { version, ...patch } }
      },
      (done) => ahead('roll', (now) => ({ ...now, students: withRow(now.students, id, done) })),
    )
  const setStays = (s: RollStudent, stays: Stay[], label: string) =>
    write(label, patchStudent(s.id, { stays }), () => patchStudent(s.id, { stays: s.stays }))
  const namesToMarkers = (names: boolean) => ask(routes.setNames, { params: { courseId }, body: { names } })

  return {
    mayEdit: mayDecide,
    editSection: (s: RollSection, patch: SectionPatch) =>
      write(`edit ${s.name}`, patchSection(s.id, patch), () =>
        patchSection(s.id, Object.fromEntries(Object.keys(patch).map((k) => [k, s[k as keyof RollSection]]))),
      ),
    editStudent: (s: RollStudent, patch: StudentPatch) =>
      write(`edit ${s.name}`, patchStudent(s.id, patch), () =>
        patchStudent(s.id, Object.fromEntries(Object.keys(patch).map((k) => [k, s[k as keyof RollStudent]]))),
      ),
    addSection: (body: z.input<typeof routes.addSection.body>) =>
      write('add a section', ask(routes.addSection, { params: { courseId }, body }), (s) =>
        ask(routes.removeSection, { params: { courseId, sectionId: s.id } }),
      ),
    addStudent: (body: z.input<typeof routes.addStudent.body>) =>
      write('add a student', ask(routes.addStudent, { params: { courseId }, body }), (s) =>
        ask(routes.removeStudent, { params: { courseId, studentId: s.id } }),
      ),
    /** Into another section, or out of all (null), from a day on. @throws StayError */
    move: (s: RollStudent, sectionId: string | null, from: string) =>
      setStays(s, moveFrom(s.stays, sectionId, from), sectionId === null ? `withdraw ${s.name}` : `move ${s.name}`),
    setNamesToMarkers: (names: boolean) =>
      write(names ? 'show markers names' : 'show markers numbers', namesToMarkers(names), () => namesToMarkers(!names)),
  }
}

export type RollEdits = ReturnType<typeof useRollEdits>
