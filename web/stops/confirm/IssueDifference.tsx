import { useQueries } from '@tanstack/react-query'
import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { routes, type IssueContent } from '#contract'
import { call } from '../../api/client'
import { useCourse } from '../../course/course'
import { PeopleList } from '../../parts/PeopleList'
import { counted, fixed } from '../../parts/format'

/** Two issues side by side: whose percent or grade differs, and what else does. */
export function IssueDifference({ numbers, label }: { numbers: number[]; label: (id: string) => string }) {
  const { id } = useCourse()
  const [pair, setPair] = useState<[number, number]>([numbers[1]!, numbers[0]!])
  const [from, to] = useQueries({
    queries: pair.map((number) => ({
      queryKey: ['issue', id, number],
      queryFn: () => call(routes.issue, { params: { courseId: id, number } }),
      staleTime: Infinity,
    })),
  })
  const select = (at: 0 | 1) => (
    <Form.Select
      size="sm"
      className="d-inline-block"
      aria-label={at === 0 ? 'From issue' : 'To issue'}
      value={pair[at]}
      onChange={(e) => setPair((p) => (at === 0 ? [Number(e.target.value), p[1]] : [p[0], Number(e.target.value)]))}
    >
      {numbers.map((n) => (
        <option key={n} value={n}>
          issue {n}
        </option>
      ))}
    </Form.Select>
  )
  const changed = from?.data && to?.data ? differences(from.data, to.data) : null
  return (
    <section className="mt-4" style={{ maxWidth: 760 }}>
      <h2>
        From {select(0)} to {select(1)}
      </h2>
      {changed && (
        <>
          <p>
            {changed.people.length === 0
              ? 'No result differs.'
              : `${counted(changed.people.length, 'result')} ${changed.people.length === 1 ? 'differs' : 'differ'}, ${changed.people.filter((p) => p.was?.grade !== p.now.grade).length} in grade.`}
            {changed.boundaries && ' The boundaries differ.'}
            {changed.weights && ' The weights differ.'}
          </p>
          <PeopleList
            people={changed.people
              .filter((p) => label(p.now.studentId) !== '')
              .map((p) => ({
                studentId: p.now.studentId,
                figures: (
                  <>
                    <span className="num soft">
                      {fixed(p.was?.rounded ?? null)} → {fixed(p.now.rounded)}
                    </span>
                    <span style={{ width: 190 }} className="text-end">
                      {p.was?.grade ?? 'none'} → <b>{p.now.grade ?? 'none'}</b>
                    </span>
                  </>
                ),
              }))}
            empty=""
          />
        </>
      )}
    </section>
  )
}

function differences(from: IssueContent, to: IssueContent) {
  const before = new Map(from.results.map((r) => [r.studentId, r]))
  return {
    people: to.results
      .map((now) => ({ was: before.get(now.studentId), now }))
      .filter(({ was, now }) => was?.rounded !== now.rounded || was.grade !== now.grade),
    boundaries: JSON.stringify(from.boundaries) !== JSON.stringify(to.boundaries),
    weights: JSON.stringify(from.components) !== JSON.stringify(to.components),
  }
}
