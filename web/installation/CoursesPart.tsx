import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { routes, type InstalledCourse } from '#contract'
import { addressOf, call, messageOf } from '../api/client'
import { coursesQuery } from '../session/ahead'
import { useKeys } from '../settings/keys'
import { StartCourse } from '../shell/StartCourse'
import { useWrites } from '../saving/writes'
import { counted, shownDay } from '../parts/format'
import { BringInCourse } from './BringInCourse'
import { Nameless } from './Nameless'
import { StandIns } from './StandIns'
import { KeyCap } from '../settings/KeyCap'
import { CloseUp } from '../parts/CloseUp'

/** All courses as such: who leads them, put away or not. Their marks are their leads’. */
export function CoursesPart() {
  const courses = useQuery({ queryKey: ['installed courses'], queryFn: () => call(routes.installedCourses) })
  const own = useQuery(coursesQuery)
  const [chosen, setChosen] = useState<string | null>(null)
  const [starting, setStarting] = useState(false)
  const [bringing, setBringing] = useState(false)
  useKeys([{ key: '+', does: 'start a course', run: () => setStarting(true) }])
  if (courses.error) return <main className="empty">{messageOf(courses.error)}</main>
  if (!courses.data) return <main className="empty">Fetching the courses…</main>
  const course = courses.data.find((c) => c.id === chosen)
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>Courses</h1>
          <div className="at-end">
            <Button size="sm" variant="outline-primary" className="me-2" onClick={() => setBringing(true)}>
              Bring in a course…
            </Button>
            <Button size="sm" onClick={() => setStarting(true)}>
              Start a course <KeyCap cap="+" />
            </Button>
          </div>
        </div>
        {courses.data.length === 0 ? (
          <p className="empty">There is no course yet. Start one and give it a lead; what is in it is theirs.</p>
        ) : (
          <table className="grid" aria-label={counted(courses.data.length, 'course')}>
            <thead>
              <tr>
                <th>course</th>
                <th>term</th>
                <th>led by</th>
                <th className="number">sections</th>
                <th className="number">students</th>
                <th>state</th>
              </tr>
            </thead>
            <tbody>
              {courses.data.map((c) => (
                <tr key={c.id} className={`pick ${c.id === chosen ? 'chosen' : ''}`} onClick={() => setChosen(c.id)}>
                  <td>
                    <button className="row-name" aria-pressed={c.id === chosen} onClick={() => setChosen(c.id)}>
                      {c.code} {c.title}
                    </button>
                  </td>
                  <td className="soft text-nowrap">{c.term}</td>
                  <td className={c.leads.length === 0 ? 'ochre' : ''}>{c.leads.join(', ') || 'nobody'}</td>
                  <td className="number">{c.sections}</td>
                  <td className="number">{c.students}</td>
                  <td className="soft">
                    {c.namelessAt
                      ? 'nameless'
                      : c.awayAt
                        ? 'put away'
                        : c.confirmedIssue !== null
                          ? `issue ${c.confirmedIssue} confirmed`
                          : 'under way'}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </main>
      <CloseUp>
        {course ? (
          <CourseCloseUp key={course.id} course={course} />
        ) : (
          <p className="soft">Choose a course to give it a lead or put it away.</p>
        )}
      </CloseUp>
      {bringing && <BringInCourse onClose={() => setBringing(false)} onDone={setChosen} />}
      {starting && <StartCourse courses={own.data ?? []} onClose={() => setStarting(false)} />}
    </div>
  )
}

function CourseCloseUp({ course: c }: { course: InstalledCourse }) {
  const { write } = useWrites()
  const people = useQuery({ queryKey: ['people'], queryFn: () => call(routes.people) })
  const [lead, setLead] = useState('')
  const params = { courseId: c.id }
  const away = (on: boolean) => call(routes.putAway, { params, body: { away: on } })
  return (
    <>
      <section>
        <h2>
          {c.code} {c.title}
        </h2>
        <p className="soft">
          {c.term}, {shownDay(c.firstDay)} to {shownDay(c.lastDay)}
        </p>
      </section>
      <section>
        <h2>Led by</h2>
        <p>{c.leads.join(', ') || 'Nobody: nothing can be decided in it until it has a lead.'}</p>
        <Form
          className="d-flex gap-2"
          onSubmit={(e) => {
            e.preventDefault()
            if (lead !== '') void write(`a lead for ${c.code}`, () => call(routes.giveLead, { params, body: { personId: lead } }))
            setLead('')
          }}
        >
          <Form.Select size="sm" aria-label="A further lead" value={lead} onChange={(e) => setLead(e.target.value)}>
            <option value="">a further lead…</option>
            {people.data
              ?.filter((p) => p.mayLead && !c.leads.includes(p.name))
              .map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}, {p.signIn}
                </option>
              ))}
          </Form.Select>
          <Button size="sm" variant="outline-primary" type="submit" disabled={lead === ''}>
            Give
          </Button>
        </Form>
      </section>
      <StandIns courseId={c.id} />
      <section>
        <h2>Keeping it</h2>
        <p>
          {c.awayAt
            ? 'Put away: it can be read by those who have a part in it, and not changed.'
            : 'Put away, it can be read by those who have a part in it, and not changed, until it is brought back.'}
        </p>
        <div className="buttons">
          <Button
            size="sm"
            variant="outline-primary"
            onClick={() =>
              void write(
                c.awayAt ? `${c.code} back` : `${c.code} away`,
                () => away(c.awayAt === null),
                () => away(c.awayAt !== null),
              )
            }
          >
            {c.awayAt ? 'Bring it back' : 'Put it away'}
          </Button>
          {c.bare && (
            <Button size="sm" variant="link" onClick={() => void write(`remove ${c.code}`, () => call(routes.removeCourse, { params }))}>
              Remove it
            </Button>
          )}
        </div>
        <p className="mt-3">
          To move the course to another installation, export all of it: with works, marks and names, and with what its leads are not shown
          (each marker’s unfinished changes, who judged whom able). It stands on the audit list.
        </p>
        <a className="btn btn-sm btn-outline-primary" href={addressOf(routes.takeOutWholeCourse, params)} download>
          Export the whole course
        </a>
        {c.awayAt && <Nameless course={c} />}
        {c.bare && (
          <p className="soft small mt-1">
            It holds no scripts and no decisions, so it can be removed: {counted(c.students, 'student')} of its roll and its plan go with
            it, and that cannot be undone.
          </p>
        )}
      </section>
    </>
  )
}
