import { useQuery } from '@tanstack/react-query'
import { useState, type ReactNode } from 'react'
import { Button } from 'react-bootstrap'
import { routes } from '#contract'
import { call, messageOf } from '../../api/client'
import { useDecidedCourse } from '../../course/course'
import { useSaved } from '../../saving/saved'
import { DateField } from '../../parts/DateField'
import { counted, shownDay, today as dayNow } from '../../parts/format'
import { ByHand } from './ByHand'
import { useIssues, useMayTell } from './useIssues'
import { CloseUp } from '../../parts/CloseUp'

/** When students see their results: all at once, on a day, or section by section; and single assessments that are released by hand. */
export function StudentsPart({ nav }: { nav: ReactNode }) {
  const { id, table } = useDecidedCourse()
  const mayTell = useMayTell()
  const { inForce, again } = useIssues()
  const { saving } = useSaved()
  const releases = useQuery({
    queryKey: ['result releases', id],
    queryFn: () => call(routes.releases, { params: { courseId: id } }),
  })
  const today = dayNow()
  const [day, setDay] = useState('')
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set())
  const [problem, setProblem] = useState<string | null>(null)
  const [said, setSaid] = useState<string | null>(null)
  const onDay = new Map(releases.data?.map((r) => [r.sectionId, r.onDay]))
  const out = (sectionId: string) => (onDay.get(sectionId) ?? '9999') <= today
  const waiting = table.sections.filter((s) => !out(s.id))
  const those = chosen.size > 0 ? waiting.filter((s) => chosen.has(s.id)) : waiting
  const sections = counted(those.length, 'section')
  const release = async (when: string | null) => {
    setProblem(null)
    setSaid(null)
    try {
      await saving(call(routes.release, { params: { courseId: id }, body: { sectionIds: those.map((s) => s.id), onDay: when } }))
      setSaid(
        when === null
          ? `Not released after all: ${sections}.`
          : when <= today
            ? `Released to ${sections}; their students get a letter.`
            : `To be seen in ${sections} from ${shownDay(when)}; their students get a letter on that day.`,
      )
      setChosen(new Set())
      await again()
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  const may = mayTell && inForce !== undefined && those.length > 0
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>When do students see it?</h1>
          {nav}
        </div>
        {!inForce && <p className="note">No issue is in force yet. Once all who must have signed, its results can be released here.</p>}
        <table className="grid" style={{ maxWidth: 720 }}>
          <thead>
            <tr>
              <th style={{ width: 34 }}>
                <span className="visually-hidden">chosen</span>
              </th>
              <th>section</th>
              <th className="number">students</th>
              <th>see their results</th>
            </tr>
          </thead>
          <tbody>
            {table.sections.map((s) => {
              const when = onDay.get(s.id)
              return (
                <tr key={s.id}>
                  <td>
                    <input
                      type="checkbox"
                      aria-label={`Choose ${s.name}`}
                      disabled={!mayTell || out(s.id)}
                      checked={chosen.has(s.id)}
                      onChange={() => setChosen((c) => new Set(c.has(s.id) ? [...c].filter((x) => x !== s.id) : [...c, s.id]))}
                    />
                  </td>
                  <td>{s.name}</td>
                  <td className="number">{table.students.filter((x) => x.sectionId === s.id).length}</td>
                  <td className={when ? '' : 'soft'}>
                    {!when ? 'not yet' : out(s.id) ? `since ${shownDay(when)}` : `from ${shownDay(when)}`}
                  </td>
                </tr>
              )
            })}
          </tbody>
        </table>
        {mayTell && waiting.length > 0 && (
          <div className="buttons mt-3">
            <Button size="sm" disabled={!may} onClick={() => void release(today)}>
              Release to {those.length === table.sections.length ? 'everyone' : sections} now
            </Button>
            <span>or from</span>
            <span style={{ width: 150 }}>
              <DateField label="Release from" value={day} onCommit={setDay} />
            </span>
            <Button size="sm" variant="outline-primary" disabled={!may || day < today} onClick={() => void release(day)}>
              Release then
            </Button>
            {those.some((s) => onDay.get(s.id)) && (
              <Button size="sm" variant="link" onClick={() => void release(null)}>
                Not yet after all
              </Button>
            )}
          </div>
        )}
        {said && (
          <p className="soft small mt-2" role="status">
            {said}
          </p>
        )}
        {problem && (
          <p className="note bad" role="alert">
            {problem}
          </p>
        )}
        <ByHand />
      </main>
      <CloseUp>
        <section>
          <h2>What they see</h2>
          <p>
            The percent and the grade of the issue in force, what each component came to, where the grade begins, and what held it back;
            never more than their own.
          </p>
          <p className="soft small">
            A letter says so on the day that it is out. What a later issue changes is said in a letter to those whom it touches, once it is
            in force. What students have seen can’t be taken back. Letters go through the post; where somebody has no sign-in yet, none is
            sent.
          </p>
        </section>
      </CloseUp>
    </div>
  )
}
