import { zodResolver } from '@hookform/resolvers/zod'
import { useQuery, useQueryClient } from '@tanstack/react-query'
import { addDays, addYears, formatISO, parseISO } from 'date-fns'
import { useState } from 'react'
import { Form } from 'react-bootstrap'
import { useForm } from 'react-hook-form'
import { useNavigate } from 'react-router'
import type { z } from 'zod'
import { sightOf } from '#core/roles'
import { NewCourse, routes, type CourseHead } from '#contract'
import { call, messageOf } from '../api/client'
import { useSignedIn } from '../session/ahead'
import { FormDay, FormDialog, FormField, textOrNull } from '../parts/FormDialog'

type Body = z.input<typeof NewCourse>
type Take = keyof Body['take']

const WORDS: Record<Take, string> = {
  plan: 'the plan: components, weights, assessments, policies',
  placements: 'sections and placements, dates moved to the new term by teaching week and weekday',
  standards: 'rubrics, mark schemes and scales in use',
  boundaries: 'grade boundaries',
  people: 'markers and externals, and who teaches which section',
}

/** The same weekday nearest to a year on, so that a term that began on a Monday begins on one again. */
function nextYear(day: string): string {
  const date = addYears(parseISO(day), 1)
  const on = (parseISO(day).getDay() - date.getDay() + 7) % 7
  return formatISO(addDays(date, on > 3 ? on - 7 : on), { representation: 'date' })
}
const NOTHING = { code: '', title: '', term: '', firstDay: '', lastDay: '' }
const nextTerm = (term: string) => term.replace(/\d{4}/, (year) => String(Number(year) + 1))

/** A new course: from nothing, or from another one; never with its marks. */
export function StartCourse({
  courses,
  course,
  onClose,
}: {
  courses: CourseHead[]
  /** The one to start from, unless another or none is chosen. */
  course?: CourseHead
  onClose: () => void
}) {
  const me = useSignedIn()
  const queries = useQueryClient()
  const navigate = useNavigate()
  const [problem, setProblem] = useState<string | null>(null)
  const led = courses.filter((c) => sightOf(c.role).decides)
  const like = (c: CourseHead) => ({
    code: c.code,
    title: c.title,
    term: nextTerm(c.term),
    firstDay: nextYear(c.firstDay),
    lastDay: nextYear(c.lastDay),
  })
  const { register, control, handleSubmit, formState, watch, setValue } = useForm<Body>({
    resolver: zodResolver(NewCourse),
    defaultValues: {
      ...(course ? like(course) : NOTHING),
      from: course?.id ?? null,
      leadId: null,
      take: { plan: true, placements: true, standards: true, boundaries: true, people: true },
    },
  })
  const { errors } = formState
  const people = useQuery({ queryKey: ['people'], queryFn: () => call(routes.people), enabled: me.admin })
  const from = watch('from')
  const begin = (id: string) => {
    const source = led.find((c) => c.id === id)
    setValue('from', source?.id ?? null)
    const fields = source ? like(source) : NOTHING
    for (const [field, value] of Object.entries(fields)) setValue(field as 'code', value)
  }
  const start = async (body: Body) => {
    setProblem(null)
    try {
      const made = await call(routes.startCourse, { body })
      await queries.invalidateQueries({ queryKey: ['courses'] })
      onClose()
      if (body.leadId && body.leadId !== me.id) return void (await queries.invalidateQueries({ queryKey: ['installed courses'] }))
      await navigate(`/courses/${made.id}/set-out/${body.from ? 'plan' : 'roll'}`)
    } catch (e) {
      setProblem(messageOf(e))
    }
  }
  return (
    <FormDialog title="Start a course" action="Start it" busy={formState.isSubmitting} onSubmit={handleSubmit(start)} onClose={onClose}>
      <Form.Group controlId="course-from">
        <Form.Label className="soft small mb-0 d-block">From</Form.Label>
        <Form.Select autoFocus value={from ?? ''} onChange={(e) => begin(e.target.value)}>
          <option value="">nothing</option>
          {led.map((c) => (
            <option key={c.id} value={c.id}>
              {c.code} {c.title}, {c.term}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <div className="d-flex gap-4">
        <FormField id="course-code" label="Code" field={register('code')} error={errors.code} />
        <FormField id="course-title" label="Title" field={register('title')} error={errors.title} wide />
      </div>
      <div className="d-flex gap-4">
        <FormField id="course-term" label="Term" field={register('term')} error={errors.term} />
        <FormDay id="course-first" label="First teaching day" name="firstDay" control={control} error={errors.firstDay} />
        <FormDay id="course-last" label="Last teaching day" name="lastDay" control={control} error={errors.lastDay} />
      </div>
      {me.admin && (
        <Form.Group controlId="course-lead">
          <Form.Label className="soft small mb-0 d-block">Led by</Form.Label>
          <Form.Select {...register('leadId', textOrNull)}>
            <option value="">{me.name}, yourself</option>
            {people.data
              ?.filter((p) => p.id !== me.id && p.mayLead)
              .map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}, {p.signIn}
                </option>
              ))}
          </Form.Select>
        </Form.Group>
      )}
      {from !== null && (
        <fieldset>
          <legend className="soft small mb-1">Take along; students and marks never come</legend>
          {Object.entries(WORDS).map(([key, words]) => (
            <Form.Check key={key} id={`start-${key}`} label={words} {...register(`take.${key as Take}`)} />
          ))}
        </fieldset>
      )}
      {problem && (
        <p className="note bad mb-0" role="alert">
          {problem}
        </p>
      )}
    </FormDialog>
  )
}
