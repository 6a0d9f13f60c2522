import type { Picks, StandardCriterion } from '#core/scales'
import type { JudgedReadings } from '#contract'
import type { Db } from '../db/open'

type Reading = [studentId: string, markerId: string, mark: number, picks: string]
type Agreed = [studentId: string, picks: string]

/** Plain SQL of handed-in readings with what they judged, as they are carried over to the version in use. */
export function judgedQueries(db: Db) {
  const READ = `SELECT s.student_id, r.marker_id, coalesce(c.mark, r.mark), coalesce(c.picks, r.picks) FROM script s JOIN reading r ON r.script_id = s.id
    LEFT JOIN carried_in_force c ON c.reading_id = r.id AND c.version = r.version WHERE s.assessment_id = ? AND r.state = 'handed in'`
  const AGREED = `SELECT s.student_id, g.rule -> '$.picks' FROM script s JOIN agreed_mark g ON g.script_id = s.id AND g.in_force = 1
    WHERE s.assessment_id = ? AND g.rule ->> '$.kind' = 'criteria'`
  const ORDER = 'ORDER BY r.handed_in_at, r.rowid'
  const all = db.prepare<[string], Reading>(`${READ} ${ORDER}`).raw()
  const ofOne = db.prepare<[string, string], Reading>(`${READ} AND s.student_id = ? ${ORDER}`).raw()
  const agreed = db.prepare<[string], Agreed>(AGREED).raw()
  const agreedOfOne = db.prepare<[string, string], Agreed>(`${AGREED} AND s.student_id = ?`).raw()
  const gathered = (assessmentId: string, criteria: StandardCriterion[], readings: Reading[], settled: Agreed[]): JudgedReadings => {
    const into = gatherJudged(assessmentId, criteria)
    for (const r of readings) into.add(r)
    for (const a of settled) into.addAgreed(a)
    return into.done()
  }
  return {
    ofAssessment: (assessmentId: string, criteria: StandardCriterion[]): JudgedReadings =>
      gathered(assessmentId, criteria, all.all(assessmentId), agreed.all(assessmentId)),
    /** Those of one student. */
    ofStudent: (assessmentId: string, studentId: string, criteria: StandardCriterion[]): JudgedReadings =>
      gathered(assessmentId, criteria, ofOne.all(assessmentId, studentId), agreedOfOne.all(assessmentId, studentId)),
  }
}

/** Readings put together as columns, one after the other. */
function gatherJudged(assessmentId: string, criteria: StandardCriterion[]) {
  const [students, markers] = [new Places(), new Places()]
  const [student, marker, mark]: [number[], number[], number[]] = [[], [], []]
  const points = criteria.map((): number[] => [])
  const agreed = { student: [] as number[], points: criteria.map((): number[] => []) }
  // Levels are few: of ten thousand readings most judge as one before them did.
  const known = new Map<string, number[]>()
  const parsed = (text: string): number[] => {
    const picks = JSON.parse(text) as Picks
    return criteria.map((c) => picks[c.id] ?? NaN)
  }
  const put = (columns: number[][], text: string) => {
    const of = known.get(text) ?? parsed(text)
    known.set(text, of)
    for (let k = 0; k < of.length; k++) columns[k]!.push(of[k]!)
  }
  return {
    add([studentId, markerId, given, picks]: Reading): void {
      student.push(students.of(studentId))
      marker.push(markers.of(markerId))
      mark.push(given)
      put(points, picks)
    },
    addAgreed([studentId, picks]: Agreed): void {
      agreed.student.push(students.of(studentId))
      put(agreed.points, picks)
    },
    done: (): JudgedReadings => ({
      assessmentId,
      criteria,
      students: students.ids,
      markers: markers.ids,
      student,
      marker,
      mark,
      points,
      agreed,
    }),
  }
}

/** Ids in the order they come, each once. */
class Places {
  readonly ids: string[] = []
  private readonly places = new Map<string, number>()

  of(id: string): number {
    const known = this.places.get(id)
    if (known !== undefined) return known
    this.places.set(id, this.ids.length)
    return this.ids.push(id) - 1
  }
}
