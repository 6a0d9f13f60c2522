import { useState, type ReactNode } from 'react'
import { Button, Form } from 'react-bootstrap'
import { Link } from 'react-router'
import { useDecidedCourse, useFigures } from '../../course/course'
import { usePersonLabels } from '../../settings/names'
import { AskForReadings } from '../../parts/AskForReadings'
import { Rows } from '../../parts/Rows'
import { TakeOut } from '../../parts/take-out/TakeOut'
import { WorkingOut } from '../../parts/WorkingOut'
import { useGivenErrors } from '../../parts/useGivenErrors'
import { counted, fixed, numeral, share } from '../../parts/format'
import { MOST_AT_ONCE, type LookNext } from './look-next'
import { CloseUp } from '../../parts/CloseUp'

const ROOM = 20

/** Where one has time for some readings more: those that make the grades surest, each with why. */
export function LookNextPart({ parts }: { parts: ReactNode }) {
  const { id, table, mayDecide } = useDecidedCourse()
  const label = usePersonLabels(table.students)
  const [given] = useGivenErrors()
  const found = useFigures('lookNext', given)
  const [text, setText] = useState(String(ROOM))
  const [asking, setAsking] = useState(false)
  const [asked, setAsked] = useState<number | null>(null)
  const room = /^\d+$/.test(text.trim()) ? Math.min(MOST_AT_ONCE, Number(text)) : 0
  if (!found) return <WorkingOut />
  const assessment = new Map(table.assessments.map((a) => [a.id, a]))
  const rows = found.scripts.slice(0, room)
  const after = rows.reduce((s, r) => s + r.gain, 0)
  return (
    <div className="work">
      <main className="table-side">
        <div className="stop-head">
          <h1>Where to look next</h1>
          <div className="at-end">
            {parts}
            <TakeOut table={() => tableOf(found, label, (of) => assessment.get(of)?.title ?? '')} />
          </div>
        </div>
        <Form
          className="d-flex align-items-center gap-2 mb-2"
          onSubmit={(e) => {
            e.preventDefault()
            if (rows.length > 0 && mayDecide) setAsking(true)
          }}
        >
          <label htmlFor="room">I have time for</label>
          <Form.Control
            id="room"
            size="sm"
            inputMode="numeric"
            style={{ width: 56 }}
            value={text}
            isInvalid={text.trim() !== '' && room === 0}
            onChange={(e) => setText(e.target.value)}
          />
          <span>{room === 1 ? 'reading' : 'readings'}</span>
          {mayDecide && (
            <Button type="submit" size="sm" disabled={rows.length === 0}>
              Ask for {rows.length === 1 ? 'it' : `these ${rows.length}`}
            </Button>
          )}
          {asked !== null && (
            <span className="soft small" role="status">
              {asked} asked for
            </span>
          )}
        </Form>
        {found.graded > 0 && (
          <p className="soft small">
            About {fixed(found.wrong)} of {counted(found.graded, 'grade')} may be wrong.{' '}
            {rows.length > 0 &&
              `With ${rows.length === 1 ? 'this reading' : `these ${rows.length} readings`} about ${fixed(found.wrong - after)} would be.`}
          </p>
        )}
        {rows.length === 0 ? (
          <p className="empty">
            {found.errors.length === 0
              ? 'How far a reading is off is known once ten scripts of an assessment were read twice. Until then nobody can say where one more tells most.'
              : 'No further reading could move a grade.'}
          </p>
        ) : (
          <table className="grid">
            <thead>
              <tr>
                <th>student</th>
                <th>assessment</th>
                <th className="number">read</th>
                <th className="number">percent</th>
                <th>grade</th>
                <th className="number">sure now</th>
                <th className="number">then</th>
                <th>why</th>
              </tr>
            </thead>
            <tbody>
              <Rows
                items={rows}
                height={31}
                columns={8}
                row={(r, row) => (
                  <tr key={`${r.studentId} ${r.assessmentId} ${r.readings}`} {...row}>
                    <td>
                      <Link to={`/courses/${id}/students/${r.studentId}`}>{label(r.studentId)}</Link>
                    </td>
                    <td>{assessment.get(r.assessmentId)?.title}</td>
                    <td className="number">{r.readings === 1 ? 'once' : r.readings === 2 ? 'twice' : `${r.readings} times`}</td>
                    <td className="number">{fixed(r.percent)}</td>
                    <td>{r.grade}</td>
                    <td className="number">{share(r.chance)}</td>
                    <td className="number">{share(r.chanceAfter)}</td>
                    <td className="soft small">{whyOf(r.percent, table.boundaries)}</td>
                  </tr>
                )}
              />
            </tbody>
          </table>
        )}
      </main>
      <CloseUp>
        <section>
          <h2>What it rests on</h2>
          <p className="soft small">
            How far one reading is off comes from scripts that were read twice. A further reading tells most where a grade is near a
            boundary, the mark carries much of the course, and few readings stand behind it. A script can be listed twice: two further
            readings of it.
          </p>
          <table className="grid">
            <thead>
              <tr>
                <th>assessment</th>
                <th className="number">off by</th>
                <th className="number">read twice</th>
              </tr>
            </thead>
            <tbody>
              {found.errors.map((e) => (
                <tr key={e.assessmentId}>
                  <td>{assessment.get(e.assessmentId)?.title}</td>
                  <td className="number">
                    {fixed(e.error)} of {numeral(assessment.get(e.assessmentId)?.outOf)}
                  </td>
                  <td className="number">{e.scripts}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {found.unknown.length > 0 && (
            <p className="small mt-2">
              <b>Not known:</b>{' '}
              <span className="soft">
                {found.unknown.map((of) => assessment.get(of)?.title).join(', ')}. Fewer than ten of their scripts were read twice, so what
                they add is left out, and the grades are less sure than this says.
              </span>
            </p>
          )}
        </section>
      </CloseUp>
      {asking && (
        <AskForReadings
          wanted={rows.map(({ assessmentId, studentId }) => ({ assessmentId, studentId, markerId: null }))}
          because="Where one more reading tells most"
          onClose={() => setAsking(false)}
          onAsked={setAsked}
        />
      )}
    </div>
  )
}

function whyOf(percent: number, boundaries: readonly { grade: string; from: number }[]): string {
  const lowest = Math.min(...boundaries.map((b) => b.from))
  const [nearest] = boundaries
    .filter((b) => b.from > lowest)
    .map((b) => ({ ...b, by: percent - b.from }))
    .sort((a, b) => Math.abs(a.by) - Math.abs(b.by))
  if (!nearest) return ''
  return `${fixed(Math.abs(nearest.by))} ${nearest.by >= 0 ? 'above' : 'below'} ${nearest.grade}`
}

const tableOf = ({ scripts }: LookNext, label: (id: string) => string, title: (id: string) => string) => ({
  title: 'Where to look next',
  header: ['student', 'assessment', 'readings', 'percent', 'grade', 'sure now', 'sure then', 'gain'],
  rows: scripts.map((s) => [
    label(s.studentId),
    title(s.assessmentId),
    s.readings,
    Number(s.percent.toFixed(3)),
    s.grade,
    Number(s.chance.toFixed(4)),
    Number(s.chanceAfter.toFixed(4)),
    Number(s.gain.toFixed(5)),
  ]),
})
