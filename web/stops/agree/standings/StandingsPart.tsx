import { useMemo, useState, type ReactNode } from 'react'
import { Form } from 'react-bootstrap'
import { SectionSelect } from '../../../parts/SectionSelect'
import { foldedName } from '#core/roll'
import type { Standings } from '#core/outcomes'
import { routes } from '#contract'
import { addressOf } from '../../../api/client'
import { useDecidedCourse } from '../../../course/course'
import { useKeys } from '../../../settings/keys'
import { usePersonLabels } from '../../../settings/names'
import { LevelRuler } from '../../../parts/LevelRuler'
import { Rows } from '../../../parts/Rows'
import { TakeOut } from '../../../parts/take-out/TakeOut'
import { WorkingOut } from '../../../parts/WorkingOut'
import { counted } from '../../../parts/format'
import { ruleInWords } from '../outcome-words'
import type { TriedRule } from './figures'
import { standingsFrom } from './in-columns'
import { LevelBars } from './LevelBars'
import { OutcomeCloseUp } from './OutcomeCloseUp'
import { Stretch } from './Stretch'
import { StudentEvidence } from './StudentEvidence'
import { standingsOut } from './table-out'
import { useGroups } from './useGroups'
import { useStandings } from './useStandings'
import type { Who } from './who'
import { CloseUp } from '../../../parts/CloseUp'
import styles from './standings.module.css'

const ROW = 44

/** Who stands where on the outcomes of the course, over time. */
export function StandingsPart({ nav }: { nav: ReactNode }) {
  const { id, table } = useDecidedCourse()
  const label = usePersonLabels(table.students)
  const [tried, setTried] = useState<TriedRule | null>(null)
  const { given, stamp, figures, problem, again } = useStandings(id, tried)
  const groups = useGroups(id)
  const [chosenId, setChosen] = useState<string | null>(null)
  const [sectionId, setSection] = useState('')
  const [find, setFind] = useState('')
  const [who, setWho] = useState<Who>({ kind: 'all' })
  const [byStanding, setByStanding] = useState(false)
  const [studentId, setStudent] = useState<string | null>(null)
  const outcomes = given?.outcomes ?? []
  const at = Math.max(
    0,
    outcomes.findIndex((o) => o.id === chosenId),
  )
  const outcome = outcomes[at]
  const standings = useMemo(() => (figures ? standingsFrom(figures.rows) : []), [figures])
  const shown = useMemo(() => {
    const words = foldedName(find)
    const members = who.kind === 'group' ? new Set(groups.all.find((g) => g.id === who.id)?.studentIds) : null
    const moved = who.kind === 'moved' ? new Set(figures?.tried?.map((m) => m.studentId)) : null
    const level = (r: Standings) => r.standings[at]?.level ?? null
    const rows = standings.filter(
      (r) =>
        (sectionId === '' || r.sectionId === sectionId) &&
        (words === '' || foldedName(label(r.studentId)).includes(words)) &&
        (who.kind !== 'none' || level(r) === null) &&
        (who.kind !== 'stretch' || (level(r) !== null && level(r)! >= who.from && level(r)! <= who.to)) &&
        (members === null || members.has(r.studentId)) &&
        (moved === null || moved.has(r.studentId)),
    )
    return byStanding ? rows.toSorted((a, b) => (level(a) ?? 0) - (level(b) ?? 0)) : rows
  }, [standings, figures?.tried, groups.all, who, find, sectionId, byStanding, at, label])
  const step = (by: number) => {
    const from = shown.findIndex((r) => r.studentId === studentId)
    setStudent(shown[Math.max(0, Math.min(shown.length - 1, from < 0 ? 0 : from + by))]?.studentId ?? null)
  }
  useKeys([
    { key: 'j', does: 'next student', run: () => step(1) },
    { key: 'k', does: 'student before', run: () => step(-1) },
    { key: 'o', does: 'next outcome', run: () => setChosen(outcomes[(at + 1) % Math.max(1, outcomes.length)]?.id ?? null) },
    { key: 'Escape', does: 'no student', run: () => setStudent(null) },
  ])
  const head = (
    <div className="stop-head">
      <h1>Who stands where</h1>
      {outcome && (
        <span className="soft small">
          {counted(table.students.length, 'student')}, {counted(outcomes.length, 'outcome')}
        </span>
      )}
      {nav}
    </div>
  )
  if (problem) return <div className="empty">{problem}</div>
  if (!given || (outcome && !figures)) return <WorkingOut />
  if (!outcome || !figures)
    return (
      <div className="work alone">
        <main className="table-side">
          {head}
          <p className="empty">
            Nothing here gives evidence of an outcome yet. Make one in the library, and link criteria of a rubric to it: every reading by
            that rubric is a result then, over the whole term.
          </p>
        </main>
      </div>
    )
  const labels = outcome.levels.map((l) => l.label)
  const chooseOutcome = (to: string) => {
    setChosen(to)
    setTried(null)
    if (who.kind === 'stretch' || who.kind === 'moved') setWho({ kind: 'all' })
  }
  return (
    <div className="work">
      <main className={`table-side ${styles.standings}`}>
        {head}
        <div className={styles.standingsFind}>
          <SectionSelect className="w-auto" sections={table.sections} value={sectionId} onChange={setSection} />
          <span className="soft">who stands</span>
          <Stretch
            labels={labels}
            reached={outcome.reached}
            from={who.kind === 'stretch' ? who.from : 1}
            to={who.kind === 'stretch' ? who.to : labels.length}
            onChange={(from, to) => setWho({ kind: 'stretch', from, to })}
          />
          <button
            className="quiet-button"
            aria-pressed={who.kind === 'none'}
            onClick={() => setWho({ kind: who.kind === 'none' ? 'all' : 'none' })}
          >
            not enough evidence
          </button>
          {who.kind !== 'all' && (
            <button className="quiet-button" onClick={() => setWho({ kind: 'all' })}>
              everybody
            </button>
          )}
          <Form.Control
            size="sm"
            type="search"
            aria-label="Find a student"
            placeholder="find"
            style={{ width: 100 }}
            value={find}
            onChange={(e) => setFind(e.target.value)}
          />
          <b className="ms-auto number" role="status">
            {shown.length} of {table.students.length}
          </b>
        </div>
        <table className="grid" aria-rowcount={shown.length + 2}>
          <thead>
            <tr>
              <th>
                <button className="row-name" aria-pressed={byStanding} onClick={() => setByStanding(!byStanding)}>
                  {byStanding ? 'student, the lowest first' : 'student'}
                </button>
              </th>
              {outcomes.map((o) => (
                <th key={o.id} className={o === outcome ? styles.chosenOutcome : undefined}>
                  <button className="row-name" aria-pressed={o === outcome} onClick={() => chooseOutcome(o.id)} title={ruleInWords(o.rule)}>
                    {o.title}
                  </button>
                </th>
              ))}
            </tr>
            <tr className="everyone">
              <th className="soft fw-normal">everyone, %</th>
              {outcomes.map((o, k) => (
                <td key={o.id}>
                  <LevelBars labels={o.levels.map((l) => l.label)} reached={o.reached} counts={figures.shares[k]!.all} />
                </td>
              ))}
            </tr>
          </thead>
          <tbody>
            <Rows
              items={shown}
              height={ROW}
              columns={outcomes.length + 1}
              chosen={shown.findIndex((r) => r.studentId === studentId)}
              row={(r, props) => (
                <tr
                  key={r.studentId}
                  {...props}
                  className="pick"
                  aria-selected={r.studentId === studentId}
                  onClick={() => setStudent(r.studentId === studentId ? null : r.studentId)}
                >
                  <td>
                    {/* One stop on the way with Tab: the close-up must not lie behind hundreds. */}
                    <button className="row-name" tabIndex={r.studentId === (studentId ?? shown[0]?.studentId) ? 0 : -1}>
                      {label(r.studentId)}
                    </button>
                  </td>
                  {outcomes.map((o, k) => (
                    <td key={o.id}>
                      <LevelRuler labels={o.levels.map((l) => l.label)} reached={o.reached} standing={r.standings[k]!} />
                    </td>
                  ))}
                </tr>
              )}
            />
          </tbody>
        </table>
        {shown.length === 0 && <p className="soft mt-2">Nobody stands there.</p>}
      </main>
      <CloseUp>
        {studentId !== null ? (
          <StudentEvidence
            key={`${studentId} ${outcome.id}`}
            studentId={studentId}
            outcome={outcome}
            given={given}
            stamp={stamp}
            onChanged={again}
            onClose={() => setStudent(null)}
          />
        ) : (
          <OutcomeCloseUp
            key={outcome.id}
            outcome={outcome}
            given={given}
            shares={figures.shares[at]!}
            moved={tried ? figures.tried : null}
            tried={tried}
            onTry={setTried}
            who={who}
            onWho={setWho}
            takeOut={
              <TakeOut
                table={() => standingsOut(table, given, shown, label)}
                more={[{ words: 'Everybody’s as OneRoster results', href: addressOf(routes.standingsRoster, { courseId: id }) }]}
              />
            }
            people={shown.map((r) => ({ id: r.studentId, value: r.standings[at]!.level ?? 0 }))}
            groups={groups}
            onChanged={again}
          />
        )}
      </CloseUp>
    </div>
  )
}
