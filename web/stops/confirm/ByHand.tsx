import { useQuery, useQueryClient } from '@tanstack/react-query'
import { useState } from 'react'
import { Button } from 'react-bootstrap'
import { routes } from '#contract'
import { call, messageOf } from '../../api/client'
import { useDecidedCourse } from '../../course/course'
import { planQuery } from '../../course/plan'
import { useSaved } from '../../saving/saved'
import { useMayTell } from './useIssues'

/** Single assessments that are released by hand, also once the course is confirmed. */
export function ByHand() {
  const { id } = useDecidedCourse()
  const mayTell = useMayTell()
  const { saving } = useSaved()
  const queries = useQueryClient()
  const [problem, setProblem] = useState<string | null>(null)
  const { data: plan } = useQuery(planQuery(id))
  if (!plan) return null
  const rows = plan.assessments.flatMap((a, at) => {
    const own = plan.placements.flatMap(([x, s, due, r]) => {
      const release = plan.releases[r]!
      return x === at && release.kind === 'by hand' ? [{ sectionId: plan.sections[s]!.id, due, released: release.released }] : []
    })
    return own.length === 0 ? [] : [{ ...a, own }]
  })
  if (rows.length === 0) return null
  const set = async (row: (typeof rows)[number], released: boolean) => {
    setProblem(null)
    try {
      await saving(
        call(routes.setPlacements, {
          params: { courseId: id },
          body: {
            placements: row.own.map(({ sectionId, due }) => ({
              assessmentId: row.id,
              sectionId,
              placed: true,
              due,
              release: { kind: 'by hand' as const, released },
            })),
          },
        }),
      )
      await queries.invalidateQueries({ queryKey: ['plan', id] })
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  return (
    <section className="mt-4" style={{ maxWidth: 720 }}>
      <h2>Released by hand</h2>
      <table className="grid">
        <tbody>
          {rows.map((r) => {
            const shown = r.own.filter((o) => o.released).length
            return (
              <tr key={r.id}>
                <td>{r.title}</td>
                <td className="soft">
                  {shown === 0 ? 'not released' : shown === r.own.length ? 'released' : `released to ${shown} of ${r.own.length} sections`}
                </td>
                <td className="text-end">
                  {mayTell && (
                    <Button
                      size="sm"
                      variant="link"
                      aria-label={`${shown < r.own.length ? 'Release' : 'Hold back'} ${r.title}`}
                      onClick={() => void set(r, shown < r.own.length)}
                    >
                      {shown < r.own.length ? 'release' : 'hold back'}
                    </Button>
                  )}
                </td>
              </tr>
            )
          })}
        </tbody>
      </table>
      {problem && (
        <p className="note bad" role="alert">
          {problem}
        </p>
      )}
    </section>
  )
}
