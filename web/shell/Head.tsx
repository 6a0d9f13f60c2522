import { useState } from 'react'
import { Dropdown } from 'react-bootstrap'
import { Link } from 'react-router'
import { sightOf } from '#core/roles'
import { routes, type CourseHead, type Me } from '#contract'
import { addressOf } from '../api/client'
import { Logo } from '../parts/Logo'
import { DemoBand } from '../session/DemoBand'
import { OwnItems } from '../session/OwnItems'
import { Find } from './Find'
import { HeadTools } from './HeadTools'
import { SeeItAs } from '../session/look'
import { StartCourse } from './StartCourse'
import styles from './head.module.css'

export function Head({ me, courses, course }: { me: Me; courses: CourseHead[]; course: CourseHead }) {
  const sight = sightOf(course.role)
  const [starting, setStarting] = useState(false)
  return (
    <header className={styles.head}>
      <Link className={styles.brand} to={`/courses/${course.id}`}>
        <Logo width={32} /> Level Table <DemoBand />
      </Link>
      <div className={styles.course}>
        <Dropdown>
          <Dropdown.Toggle variant="link" size="sm">
            <b>
              {course.code} {course.title}
            </b>{' '}
            {course.awayAt && <span className="ochre">put away · </span>}
            <span className={styles.term}>
              {course.term}
              {sight.students !== 'self' && ` · ${course.sections} sections · ${course.students} students`}
            </span>
          </Dropdown.Toggle>
          <Dropdown.Menu>
            {courses.map((c) => (
              <Dropdown.Item as={Link} to={`/courses/${c.id}`} key={c.id} active={c.id === course.id}>
                {c.code} {c.title}, {c.term}{' '}
                <span className="small">{c.awayAt ? 'put away' : c.confirmedIssue ? `issue ${c.confirmedIssue} confirmed` : c.role}</span>
              </Dropdown.Item>
            ))}
            <Dropdown.Divider />
            <Dropdown.Item as={Link} to="/courses">
              All your courses
            </Dropdown.Item>
            {courses.some((c) => sightOf(c.role).decides) && (
              <>
                <Dropdown.Item onClick={() => setStarting(true)}>Start a course…</Dropdown.Item>
              </>
            )}
          </Dropdown.Menu>
        </Dropdown>
        {starting && <StartCourse courses={courses} course={course} onClose={() => setStarting(false)} />}
      </div>
      {sight.students !== 'self' && (
        <>
          <Find course={course} />
          <HeadTools />
        </>
      )}
      <Dropdown align="end">
        <Dropdown.Toggle variant="link" size="sm" className="text-reset fw-normal">
          {me.name}, {course.role}
        </Dropdown.Toggle>
        <Dropdown.Menu>
          {sight.oversees && (
            <Dropdown.Item as={Link} to={`/courses/${course.id}/record`}>
              The record
            </Dropdown.Item>
          )}
          {sight.reads && (
            <Dropdown.Item href={addressOf(routes.personCalendar, { courseId: course.id, personId: me.id })} download>
              My sections’ due days as a calendar
            </Dropdown.Item>
          )}
          {sight.letters !== 'none' && (
            <Dropdown.Item as={Link} to={`/courses/${course.id}/post`}>
              The post
            </Dropdown.Item>
          )}
          {sight.decides && <SeeItAs courseId={course.id} />}
          <OwnItems me={me} />
        </Dropdown.Menu>
      </Dropdown>
    </header>
  )
}
