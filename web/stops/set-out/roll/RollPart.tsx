import { useMemo, useState, type ReactNode } from 'react'
import { Button, Dropdown } from 'react-bootstrap'
import { currentSection } from '#core/roll'
import { routes, type Plan, type Roll } from '#contract'
import { addressOf } from '../../../api/client'
import { problemOf } from '../../../api/problem-of'
import { useKeys } from '../../../settings/keys'
import { useRollQuery } from '../../../course/plan'
import { counted } from '../../../parts/format'
import { WriteProblem, WritesProvider } from '../../../saving/writes'
import { BringInRoll } from './BringInRoll'
import { useRollEdits } from './edits'
import { NewSection } from './NewSection'
import { NewStudent } from './NewStudent'
import { SectionCloseUp } from './SectionCloseUp'
import { SectionList } from './SectionList'
import { StudentCloseUp } from './StudentCloseUp'
import { StudentsGrid } from './StudentsGrid'
import { CloseUp } from '../../../parts/CloseUp'
import styles from './roll.module.css'
import { KeyCap } from '../../../settings/KeyCap'

/** Who is taught, by section. */
export function RollPart({ plan, nav }: { plan: Plan; nav: ReactNode }) {
  const courseId = plan.head.id
  const roll = useRollQuery(courseId)
  const problem = problemOf(roll)
  if (problem) return <div className="empty">{problem}</div>
  if (!roll.data) return <div className="empty">Fetching the roll…</div>
  return (
    <WritesProvider courseId={courseId}>
      <RollView plan={plan} roll={roll.data} nav={nav} />
    </WritesProvider>
  )
}

type Dialog = 'file' | 'section' | 'student' | null
const FORMATS = [
  [routes.rollCsv, 'CSV'],
  [routes.rollXlsx, 'XLSX'],
  [routes.rollOneRoster, 'OneRoster 1.2 CSV (zip)'],
] as const

function RollView({ plan, roll, nav }: { plan: Plan; roll: Roll; nav: ReactNode }) {
  const courseId = plan.head.id
  const edits = useRollEdits()
  const { mayEdit } = edits
  const [sectionId, setSectionId] = useState<string | null>(null)
  const [studentId, setStudentId] = useState<string | null>(null)
  const [dialog, setDialog] = useState<Dialog>(null)
  useKeys([
    ...(mayEdit
      ? [
          { key: 'b', does: 'bring in a roll', run: () => setDialog('file') },
          { key: 's', does: 'add a student', run: () => roll.sections.length > 0 && setDialog('student') },
          { key: 'e', does: 'add a section', run: () => setDialog('section') },
        ]
      : []),
    { key: 'Escape', does: 'close the student’s close-up', run: () => (studentId ? setStudentId(null) : setSectionId(null)) },
  ])
  const present = useMemo(() => roll.students.filter((s) => currentSection(s.stays) !== null).length, [roll.students])
  const student = roll.students.find((s) => s.id === studentId)
  const section = roll.sections.find((s) => s.id === sectionId)
  const left = roll.students.length - present

  return (
    <div className="work">
      <main className={`table-side ${styles.roll}`}>
        <div className="stop-head">
          <h1>Who is taught</h1>
          <span className="soft small">
            {counted(present, 'student')} in {counted(roll.sections.length, 'section')}
            {left > 0 && `, ${left} left`}
          </span>
          {nav}
        </div>
        <WriteProblem />
        <div className="buttons mb-2">
          {mayEdit && (
            <>
              <Button onClick={() => setDialog('file')}>
                Bring in a roll <KeyCap cap="b" />
              </Button>
              <Button variant="outline-primary" disabled={roll.sections.length === 0} onClick={() => setDialog('student')}>
                New student <KeyCap cap="s" />
              </Button>
              <Button variant="outline-primary" onClick={() => setDialog('section')}>
                New section <KeyCap cap="e" />
              </Button>
            </>
          )}
          {roll.students.length > 0 && (
            <Dropdown>
              <Dropdown.Toggle variant="outline-primary">Take it out</Dropdown.Toggle>
              <Dropdown.Menu>
                {FORMATS.map(([route, words]) => (
                  <Dropdown.Item key={words} href={addressOf(route, { courseId })} download>
                    {words}
                  </Dropdown.Item>
                ))}
              </Dropdown.Menu>
            </Dropdown>
          )}
          <span className="ms-auto d-flex align-items-center gap-2 small soft" role="group" aria-label="What markers see">
            markers see
            <span className="pill-choice">
              <button aria-pressed={roll.namesToMarkers} disabled={!mayEdit} onClick={() => void edits.setNamesToMarkers(true)}>
                names
              </button>
              <button aria-pressed={!roll.namesToMarkers} disabled={!mayEdit} onClick={() => void edits.setNamesToMarkers(false)}>
                numbers
              </button>
            </span>
          </span>
        </div>
        {roll.sections.length === 0 && roll.students.length === 0 ? (
          <div className="empty">
            <p>
              Nobody is on the roll yet. Bring in a file from the records office or a spreadsheet (CSV, XLSX or a zipped OneRoster): the
              sections in it are made with it. You see all it would do before it is done.
            </p>
          </div>
        ) : (
          <div className={styles.rollBody}>
            <SectionList roll={roll} chosen={sectionId} onChoose={(id) => (setSectionId(id), setStudentId(null))} />
            <StudentsGrid roll={roll} sectionId={sectionId} chosen={studentId} onChoose={setStudentId} />
          </div>
        )}
      </main>
      <CloseUp>
        {student ? (
          <StudentCloseUp key={student.id} student={student} roll={roll} plan={plan} edits={edits} />
        ) : section ? (
          <SectionCloseUp key={section.id} section={section} roll={roll} plan={plan} edits={edits} />
        ) : (
          <section>
            <h2>Choose a section or a student</h2>
            <p className="soft">
              A section shows who teaches it and when it meets; due dates are checked against that. A student can be moved from a day on, or
              withdrawn and brought back: marks and readings stay with them.
            </p>
          </section>
        )}
      </CloseUp>
      {dialog === 'file' && <BringInRoll plan={plan} onClose={() => setDialog(null)} />}
      {dialog === 'section' && (
        <NewSection
          people={roll.people}
          onClose={() => setDialog(null)}
          onAdd={async (body) => {
            const added = await edits.addSection(body)
            if (added) setSectionId(added.id)
            setDialog(null)
          }}
        />
      )}
      {dialog === 'student' && (
        <NewStudent
          sections={roll.sections}
          sectionId={sectionId}
          plan={plan}
          onClose={() => setDialog(null)}
          onAdd={async (body) => {
            const added = await edits.addStudent(body)
            if (added) setStudentId(added.id)
            setDialog(null)
          }}
        />
      )}
    </div>
  )
}
