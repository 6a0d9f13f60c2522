import { queryOptions, useQuery, useQueryClient } from '@tanstack/react-query'
import { useDeferredValue, useState } from 'react'
import { Button, Form } from 'react-bootstrap'
import { sightOf } from '#core/roles'
import { routes, type CoursePerson } from '#contract'
import type { z } from 'zod'
import { call, messageOf } from '../../../api/client'
import { coursesQuery } from '../../../session/ahead'
import { counted } from '../../../parts/format'

export type CourseRole = CoursePerson['role']
interface Found {
  id: string
  name: string
}
type Tried = z.infer<typeof routes.tryCoursePeople.response>

const findQuery = (courseId: string, words: string) =>
  queryOptions({
    queryKey: ['course people', courseId, 'find', words],
    queryFn: () => call(routes.findPeople, { params: { courseId, words } }),
  })

/** Gives people of the installation a part: found by name, from pasted lines, or as in another course. */
export function AddToCourse({ courseId, add }: { courseId: string; add: (people: Found[], role: CourseRole) => Promise<unknown> }) {
  const [role, setRole] = useState<CourseRole>('marker')
  const [find, setFind] = useState('')
  const [text, setText] = useState('')
  const [tried, setTried] = useState<Tried | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  const words = useDeferredValue(find.trim())
  const queries = useQueryClient()
  const found = useQuery({ ...findQuery(courseId, words), enabled: words !== '' })
  const pick = (p: Found) => {
    setFind('')
    void add([p], role)
  }
  const tryText = () => {
    setProblem(null)
    call(routes.tryCoursePeople, { params: { courseId }, body: { text } }).then(setTried, (e: unknown) => setProblem(messageOf(e)))
  }
  const meant = tried?.flatMap((t) => t.person ?? []) ?? []
  return (
    <section>
      <h2>Give somebody a part</h2>
      <div className="words-choice mb-2" role="group" aria-label="Which part">
        {(['marker', 'external', 'lead'] as const).map((r) => (
          <button key={r} type="button" aria-pressed={role === r} onClick={() => setRole(r)}>
            {r}
          </button>
        ))}
      </div>
      <Form.Control
        size="sm"
        type="search"
        aria-label={`Find somebody to be ${role}`}
        placeholder="name or sign-in"
        value={find}
        onChange={(e) => setFind(e.target.value)}
        onKeyDown={(e) => {
          const typed = find.trim()
          // Enter may be quicker than the answer: whoever is found then is meant.
          if (e.key === 'Enter' && typed !== '')
            void queries.fetchQuery(findQuery(courseId, typed)).then(
              ([first]) => first && pick(first),
              (failed: unknown) => setProblem(messageOf(failed)),
            )
        }}
      />
      {words !== '' && found.data && (
        <ul className="people" aria-label="Found">
          {found.data.map((p) => (
            <li key={p.id}>
              <button className="row-name" onClick={() => pick(p)}>
                {p.name}
              </button>
              <span className="soft">{p.signIn}</span>
            </li>
          ))}
        </ul>
      )}
      {words !== '' && found.data?.length === 0 && (
        <p className="soft small" role="status">
          Nobody else of this installation is called that. Whoever administers it adds people.
        </p>
      )}
      <Form.Group controlId="course-people-list" className="mt-3">
        <Form.Label className="soft small mb-0">Or several, a line each: name, sign-in or mail address</Form.Label>
        <Form.Control
          as="textarea"
          rows={3}
          value={text}
          onChange={(e) => {
            setText(e.target.value)
            setTried(null)
          }}
        />
      </Form.Group>
      {problem && (
        <p className="note bad" role="alert">
          {problem}
        </p>
      )}
      {tried && (
        <ul className="list-unstyled mt-1 mb-2" role="status">
          {tried.map((t) => (
            <li key={t.line} className={t.person ? '' : 'brick'}>
              {t.person ? `${t.person.name}, ${t.person.signIn}` : `${t.text}: ${t.why}`}
            </li>
          ))}
        </ul>
      )}
      <div className="buttons mt-1">
        {tried === null ? (
          <Button size="sm" variant="outline-primary" disabled={text.trim() === ''} onClick={tryText}>
            Try it
          </Button>
        ) : (
          <Button
            size="sm"
            disabled={meant.length === 0}
            onClick={() => {
              setText('')
              setTried(null)
              void add(meant, role)
            }}
          >
            {counted(meant.length, 'person', 'people')}: {role}
          </Button>
        )}
      </div>
      <FromCourse courseId={courseId} onPick={(people) => setText(people.map((p) => p.signIn).join('\n'))} />
    </section>
  )
}

/** Takes the markers of another course over into the list, where each can still be left out. */
function FromCourse({ courseId, onPick }: { courseId: string; onPick: (people: CoursePerson[]) => void }) {
  const courses = useQuery(coursesQuery)
  const others = courses.data?.filter((c) => c.id !== courseId && sightOf(c.role).oversees) ?? []
  if (others.length === 0) return null
  const take = async (other: string) => {
    const people = await call(routes.coursePeople, { params: { courseId: other } })
    onPick(people.filter((p) => p.role === 'marker' && p.state !== 'inactive'))
  }
  return (
    <Form.Select size="sm" className="mt-2" aria-label="Markers of another course" value="" onChange={(e) => void take(e.target.value)}>
      <option value="">the markers of another course…</option>
      {others.map((c) => (
        <option key={c.id} value={c.id}>
          {c.code} {c.title}, {c.term}
        </option>
      ))}
    </Form.Select>
  )
}
