import { useQuery } from '@tanstack/react-query'
import { routes, type NoteAbout } from '#contract'
import { call } from '../../api/client'
import { useDecidedCourse } from '../../course/course'
import { usePersonLabels } from '../../settings/names'
import { counted, shownAt } from '../../parts/format'

/** All notes of the course, with what they are about and what was answered. */
export function Notes({ courseId }: { courseId: string }) {
  const { table } = useDecidedCourse()
  const label = usePersonLabels(table.students)
  const notes = useQuery({ queryKey: ['notes', courseId], queryFn: () => call(routes.notes, { params: { courseId } }) })
  if (!notes.data || notes.data.length === 0) return null
  const title = (assessmentId: string | null) => table.assessments.find((a) => a.id === assessmentId)?.title
  const of = ({ kind, id, assessmentId }: NoteAbout): string => {
    const inWhat = title(assessmentId)
    const what =
      kind === 'section'
        ? table.sections.find((s) => s.id === id)?.name
        : kind === 'marker'
          ? table.markers.find((m) => m.id === id)?.name
          : kind === 'script'
            ? label(table.students.find((s) => id.endsWith(`:${s.id}`))?.id ?? '') || 'a script'
            : 'a decision'
    return `${what ?? kind}${inWhat ? `, ${inWhat}` : ''}`
  }
  return (
    <section className="mt-3">
      <h2>{counted(notes.data.length, 'note')}</h2>
      <table className="grid">
        <thead>
          <tr>
            <th>when</th>
            <th>on</th>
            <th>note</th>
            <th>who</th>
            <th>answer</th>
          </tr>
        </thead>
        <tbody>
          {notes.data.map((n) => (
            <tr key={n.id}>
              <td className="soft text-nowrap">{shownAt(n.at, 'd MMM, HH:mm')}</td>
              <td>{of(n.about)}</td>
              <td dir="auto">{n.words}</td>
              <td className="soft text-nowrap">{n.by}</td>
              <td dir="auto">{n.answer ? `${n.answer.words} (${n.answer.by})` : <span className="ochre">not yet</span>}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
