import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { routes, type RollFileKept } from '#contract'
import { call, messageOf } from '../../api/client'
import { useDecidedCourse } from '../../course/course'
import { useSaved } from '../../saving/saved'
import { counted, shownAt } from '../../parts/format'

/** Rolls that came in from files: who, when, what each did; and the way back, also after the sitting. */
export function RollFiles({ courseId }: { courseId: string }) {
  const { mayDecide, refresh } = useDecidedCourse()
  const { saving } = useSaved()
  const { data } = useQuery({
    queryKey: ['roll files', courseId],
    queryFn: () => call(routes.rollFiles, { params: { courseId } }),
  })
  const [problem, setProblem] = useState<string | null>(null)
  if (!data || data.length === 0) return null
  const undo = async (f: RollFileKept) => {
    setProblem(null)
    try {
      await saving(call(routes.undoRollFile, { params: { courseId, fileId: f.id } }))
      await refresh()
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  return (
    <section className="mt-4" aria-labelledby="roll-files">
      <h2 id="roll-files">Rolls brought in</h2>
      {problem && (
        <p className="note bad" role="alert">
          {problem}
        </p>
      )}
      <table className="grid" aria-label={counted(data.length, 'roll')}>
        <tbody>
          {data.map((f) => (
            <tr key={f.id}>
              <td className="soft text-nowrap">{shownAt(f.at, 'd MMM, HH:mm')}</td>
              <td className={f.undone ? 'text-decoration-line-through soft' : 'fw-semibold'}>{f.name}</td>
              <td>{f.summary}</td>
              <td className="soft text-nowrap">{f.by}</td>
              <td className="soft text-nowrap text-end">
                {f.undone
                  ? `undone by ${f.undone.by}, ${shownAt(f.undone.at, 'd MMM, HH:mm')}`
                  : mayDecide && (
                      <Button size="sm" variant="link" aria-label={`Undo ${f.name}`} onClick={() => void undo(f)}>
                        Undo
                      </Button>
                    )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
