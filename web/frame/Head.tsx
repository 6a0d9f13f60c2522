import { useQueryClient } from '@tanstack/react-query'
import { Redo2, Undo2 } from 'lucide-react'
import { useState } from 'react'
import { Dropdown } from 'react-bootstrap'
import { Link, useNavigate } from 'react-router'
import { format } from 'date-fns'
import { routes, type CourseHead, type Me } from '#contract'
import { addressOf, call } from '../api/client'
import { Find } from './Find'
import { useKeys } from './keys'
import { SeeItAs } from './look'
import { useNames } from './names'
import { useSaved } from './saved'
import { StartCourse } from './StartCourse'
import { useUndo } from './undo'

export function Head({ me, courses, course }: { me: Me; courses: CourseHead[]; course: CourseHead }) {
  const { shown, turn } = useNames()
  const { undo, redo, undoes, redoes } = useUndo()
  const navigate = useNavigate()
  const queries = useQueryClient()
  const [starting, setStarting] = useState(false)
  useKeys([
    { key: 'Ctrl+z', does: 'undo, whatever it was', run: undo },
    { key: 'Ctrl+y', does: 'redo', run: redo },
    { key: 'N', does: 'names or candidate numbers', run: turn },
  ])
  const leave = async () => {
    await call(routes.signOut)
    queries.clear()
    await navigate('/')
  }
  return (
    <header className="head">
      <Link className="brand" to={`/courses/${course.id}`}>
        <img src="/mark.svg" width="32" height="20" alt="" /> Level Table
      </Link>
      <div className="course">
        <Dropdown>
          <Dropdown.Toggle variant="link" size="sm">
            <b>
              {course.code} {course.title}
            </b>{' '}
            <span className="term">
              {course.term} · {course.sections} sections · {course.students} students
            </span>
          </Dropdown.Toggle>
          <Dropdown.Menu>
            {courses.map((c) => (
              <Dropdown.Item as={Link} to={`/courses/${c.id}`} key={c.id} active={c.id === course.id}>
                {c.code} {c.title}, {c.term}{' '}
                <span className="small">{c.confirmedIssue ? `issue ${c.confirmedIssue} confirmed` : c.role}</span>
              </Dropdown.Item>
            ))}
            {courses.some((c) => c.role === 'lead') && (
              <>
                <Dropdown.Divider />
                <Dropdown.Item onClick={() => setStarting(true)}>Start a course…</Dropdown.Item>
              </>
            )}
          </Dropdown.Menu>
        </Dropdown>
        {starting && <StartCourse courses={courses} course={course} onClose={() => setStarting(false)} />}
      </div>
      {course.role !== 'student' && <Find course={course} />}
      <button className="quiet" onClick={turn} aria-pressed={shown === 'numbers'} title="Show names or candidate numbers (N)">
        {shown === 'names' ? <b>Names</b> : 'Names'} · {shown === 'numbers' ? <b>numbers</b> : 'numbers'}
      </button>
      <SavedState />
      <span>
        <button
          className="quiet"
          disabled={!undoes}
          onClick={undo}
          title={undoes ? `Undo: ${undoes} (Ctrl+Z)` : 'Nothing to undo'}
          aria-label={undoes ? `Undo: ${undoes}` : 'Undo'}
        >
          <Undo2 size={16} aria-hidden />
        </button>
        <button
          className="quiet"
          disabled={!redoes}
          onClick={redo}
          title={redoes ? `Redo: ${redoes} (Ctrl+Y)` : 'Nothing to redo'}
          aria-label={redoes ? `Redo: ${redoes}` : 'Redo'}
        >
          <Redo2 size={16} aria-hidden />
        </button>
      </span>
      <Dropdown align="end">
        <Dropdown.Toggle variant="link" size="sm" className="text-reset fw-normal">
          {me.name}, {course.role}
        </Dropdown.Toggle>
        <Dropdown.Menu>
          {(course.role === 'lead' || course.role === 'external') && (
            <Dropdown.Item as={Link} to={`/courses/${course.id}/record`}>
              The record
            </Dropdown.Item>
          )}
          {course.role === 'marker' && (
            <Dropdown.Item href={addressOf(routes.personCalendar, { courseId: course.id, personId: me.id })} download>
              My sections’ due days as a calendar
            </Dropdown.Item>
          )}
          {course.role !== 'student' && (
            <Dropdown.Item as={Link} to={`/courses/${course.id}/post`}>
              The post
            </Dropdown.Item>
          )}
          {course.role === 'lead' && <SeeItAs courseId={course.id} />}
          <Dropdown.Item onClick={() => void leave()}>Sign out</Dropdown.Item>
        </Dropdown.Menu>
      </Dropdown>
    </header>
  )
}

function SavedState() {
  const { state } = useSaved()
  return (
    <span
      role="status"
      className={`small ${state.kind === 'failed' ? 'brick' : 'soft'}`}
      title={state.kind === 'failed' ? state.why : undefined}
    >
      {state.kind === 'saving'
        ? 'saving…'
        : state.kind === 'failed'
          ? '✕ not saved'
          : state.at
            ? `✓ saved ${format(state.at, 'HH:mm')}`
            : '✓ saved'}
    </span>
  )
}
