import { useState, type ReactNode } from 'react'
import type { Plan } from '#contract'
import { routes } from '#contract'
import { addressOf, call } from '../../../api/client'
import { useTrial } from '../../../course/trial'
import { useWrites, WriteProblem, WritesProvider } from '../../../saving/writes'
import { DateField } from '../../../parts/DateField'
import { counted } from '../../../parts/format'
import { TitleField } from '../../../parts/TitleField'
import { Grades } from './Grades'
import { StudentsSee } from './StudentsSee'
import styles from '../people/people.module.css'

/** What the course is called, when it is taught, and which grades it has. */
export function CoursePart({ decided, nav }: { decided: Plan; nav: ReactNode }) {
  return (
    <WritesProvider courseId={decided.head.id}>
      <div className="work alone">
        <main className="table-side">
          <div className="stop-head">
            <h1>The course</h1>
            {nav}
          </div>
          <WriteProblem />
          <div className={styles.courseParts}>
            <Called plan={decided} />
            <Grades decided={decided} />
            <StudentsSee plan={decided} />
            <TakeAlong courseId={decided.head.id} />
          </div>
        </main>
      </div>
    </WritesProvider>
  )
}

/** The whole course, to another installation. */
function TakeAlong({ courseId }: { courseId: string }) {
  const { mayDecide } = useTrial()
  if (!mayDecide) return null
  return (
    <section>
      <h2>Take it along</h2>
      <p>
        The course as a Data Package: roll, plan, library entries in use, works, readings with their histories, decisions, confirmed
        results. Spreadsheets and statistics programs read its tables. Left out is what you are not shown: other leads’ trials, changes that
        a marker has not handed in, and who judged whom able. To move a course to another installation, an administrator exports all of it.
      </p>
      <a className="btn btn-sm btn-outline-primary" href={addressOf(routes.takeOutCourse, { courseId })} download>
        Take the course out
      </a>
      <p className="soft small mt-1">It holds names, marks and works: keep it as you keep those. That it was taken out is noted.</p>
    </section>
  )
}

type Named = Pick<Plan['head'], 'code' | 'title' | 'term' | 'firstDay' | 'lastDay'>

function Called({ plan }: { plan: Plan }) {
  const { courseId, mayDecide } = useTrial()
  const { write } = useWrites()
  const { code, title, term, firstDay, lastDay } = plan.head
  const now: Named = { code, title, term, firstDay, lastDay }
  const [ahead, setAhead] = useState<Named | null>(null)
  const shown = ahead ?? now
  const change = (patch: Partial<Named>, what: string) => {
    // A first day after the last is told by the server, in words.
    const next = { ...shown, ...patch }
    const send = (body: Named) => call(routes.editCourse, { params: { courseId }, body })
    setAhead(next)
    void write(
      what,
      () => send(next),
      () => send(now),
    ).then(() => setAhead(null))
  }
  const outside = plan.placements.filter(([, , due]) => due !== null && (due < shown.firstDay || due > shown.lastDay)).length
  const field = (key: 'code' | 'title' | 'term') => (
    <TitleField
      label={`${key} of the course`}
      value={shown[key]}
      disabled={!mayDecide}
      onCommit={(v) => change({ [key]: v }, `${key} ${v}`)}
    />
  )
  const day = (key: 'firstDay' | 'lastDay', label: string) => (
    <DateField
      label={label}
      value={shown[key]}
      term={{ firstDay: shown.firstDay, lastDay: shown.lastDay }}
      disabled={!mayDecide}
      onCommit={(d) => d !== '' && change({ [key]: d }, label)}
    />
  )
  return (
    <section>
      <h2>What it is called, and when it is taught</h2>
      <dl className="fields">
        <dt>code</dt>
        <dd>{field('code')}</dd>
        <dt>title</dt>
        <dd>{field('title')}</dd>
        <dt>term</dt>
        <dd>{field('term')}</dd>
        <dt>first teaching day</dt>
        <dd>{day('firstDay', 'First teaching day')}</dd>
        <dt>last teaching day</dt>
        <dd>{day('lastDay', 'Last teaching day')}</dd>
      </dl>
      <p className={outside > 0 ? 'ochre' : 'soft'} role="status">
        {outside > 0
          ? `${counted(outside, 'placement')} ${outside === 1 ? 'is' : 'are'} due outside these days: see placements, where each can be moved.`
          : 'Every day that work is due lies in these days. Moving them changes no due day.'}
      </p>
    </section>
  )
}
