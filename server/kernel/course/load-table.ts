import { STATUSES, type Status } from '#core/grades'
import { scriptIdOf } from '#core/trial'
import { atOnce, type Cell, type CourseTable, type TableCell } from '#contract'
import type { Db } from '../db/open'
import { inTurns } from '../in-turns'
import type { CellKey } from './latest-cells'
import { planLoader, type PlanLoader } from './load-plan'
import { tableReader, wordOf, type TableCore } from './read-table'

/** How often a course is read in turns before it is read in one go. */
const TRIES = 3

/** Reads a course with its scripts and readings on top of its plan; kept until the course's version rises. */
export function tableLoader(db: Db, plans: PlanLoader = planLoader(db)) {
  const { reading, settledIn, ofPlan } = tableReader(db, plans)
  const oneScript = db.prepare<[string, string], { id: string; status: Status; daysLate: number; entered: number | null; version: number }>(
    'SELECT id, status, days_late AS daysLate, entered, version FROM script WHERE student_id = ? AND assessment_id = ?',
  )
  const itsReadings = db
    .prepare<[string], [string, number]>(
      `SELECT r.marker_id, coalesce(c.mark, r.mark) FROM reading r LEFT JOIN carried_in_force c ON c.reading_id = r.id AND c.version = r.version
       WHERE r.script_id = ? AND r.state = 'handed in' ORDER BY r.handed_in_at, r.rowid`,
    )
    .raw()

  /** Of the scripts that a decision settled or opened again: what would be the last word on each without it. */
  const wordsWithout = db
    .prepare<[string, string], [string, number | null]>(
      `SELECT own.script_id, (SELECT iif(a.holds = 1, a.mark, NULL) FROM agreed_mark a JOIN decision d ON d.id = a.decision_id
         WHERE a.script_id = own.script_id AND d.withdrawn_at IS NULL AND d.id <> ? ORDER BY d.seq DESC LIMIT 1)
       FROM agreed_mark own WHERE own.decision_id = ?`,
    )
    .raw()
  const lastWord = db.prepare<[string], { mark: number | null; rule: string | null }>(
    'SELECT mark, rule FROM last_word WHERE script_id = ?',
  )

  const kept = new Map<string, TableCore>()
  const places = new Map<string, Places>()
  const beingRead = new Map<string, Promise<TableCore>>()

  /** Whoever asks while a course is being read waits for that reading. */
  function readOnce(courseId: string): Promise<TableCore> {
    const begun = beingRead.get(courseId)
    if (begun) return begun
    const own = inTurns(reading(courseId)).finally(() => beingRead.delete(courseId))
    beingRead.set(courseId, own)
    return own
  }

  function current(courseId: string): TableCore | null {
    const { version } = plans.load(courseId).plan
    const before = kept.get(courseId)
    return before?.version === version ? before : null
  }

  function keep(courseId: string, table: TableCore): TableCore {
    kept.set(courseId, table)
    places.delete(courseId)
    return table
  }

  return {
    /** @throws HttpProblem 404 where there is no such course */
    load(courseId: string): TableCore {
      const known = current(courseId)
      if (known) return known
      return keep(courseId, atOnce(reading(courseId)))
    },
    /** The same, and others are answered meanwhile. */
    async loadInTurns(courseId: string): Promise<TableCore> {
      for (let tries = 0; tries < TRIES; tries++) {
        const known = current(courseId)
        if (known) return known
        const table = await readOnce(courseId)
        if (table.version === plans.load(courseId).plan.version) return current(courseId) ?? keep(courseId, table)
      }
      // Somebody keeps writing to it: it is read in one go.
      return this.load(courseId)
    },
    /**
     * Takes cells over that were just written, where nothing else has changed: the rest need not be read again.
     * @param writes how many writes they came by
     */
    patch(courseId: string, cells: readonly Omit<Cell, 'fromReadings'>[], writes = 1): void {
      patched(courseId, writes, (table, place) => {
        for (const c of cells) putScript(table, place, c, { ...c, entered: c.mark })
        return table.readings
      })
    },
    /** Takes over what stands of some scripts and their readings after a write that was about nothing else. */
    patchReadings(courseId: string, keys: readonly CellKey[]): void {
      patched(courseId, 1, (table, place) => {
        settleAnew(table, place, keys)
        const changed = new Set<number>()
        const anew: [script: number, marker: number, mark: number][] = []
        const markerAt = new Map(table.markers.map((m, i) => [m.id, i]))
        for (const key of keys) {
          const row = oneScript.get(key.studentId, key.assessmentId)
          const at = row === undefined ? null : putScript(table, place, key, row)
          if (at === null) continue
          changed.add(at)
          for (const [markerId, mark] of itsReadings.all(row!.id)) {
            const marker = markerAt.get(markerId)
            if (marker === undefined) return null
            anew.push([at, marker, mark])
          }
        }
        const { script, marker, mark } = table.readings
        const stay = script.flatMap((at, i) => (changed.has(at) ? [] : [i]))
        return {
          script: [...stay.map((i) => script[i]!), ...anew.map((r) => r[0])],
          marker: [...stay.map((i) => marker[i]!), ...anew.map((r) => r[1])],
          mark: [...stay.map((i) => mark[i]!), ...anew.map((r) => r[2])],
        }
      })
    },
    /** What the table but for its scripts and readings would be without a decision that left those as they are. */
    planWithout(courseId: string, decisionId: string): Omit<TableCore, 'scripts' | 'readings'> {
      const { scripts: _, readings: __, ...now } = this.load(courseId)
      const words = new Map(wordsWithout.all(decisionId, decisionId))
      const agreed = Object.fromEntries(Object.entries(now.agreed).filter(([scriptId]) => !words.has(scriptId)))
      for (const [scriptId, mark] of words) if (mark !== null) agreed[scriptId] = mark
      const others = (ids: readonly string[]) => ids.filter((scriptId) => !words.has(scriptId))
      const agreedBy = Object.fromEntries(Object.entries(now.agreedBy).map(([rule, ids]) => [rule, others(ids)]))
      return { ...now, ...ofPlan(plans.without(courseId, decisionId)), agreed, agreedBy, reopened: others(now.reopened) }
    },
    /** Takes over a decision, which left every script and reading as it is. */
    keepMarks(courseId: string): void {
      const table = kept.get(courseId)
      const decided = plans.load(courseId)
      const { plan } = decided
      const same =
        table && plan.assessments.length === table.assessments.length && plan.assessments.every((a, i) => a.id === table.assessments[i]!.id)
      if (!same || table.version !== plan.version - 1) return
      kept.set(courseId, { ...table, ...ofPlan(decided), ...settledIn(courseId) })
    },
    /** Scripts as they stand now, with their readings; those that are not on the table are left out. */
    cells(courseId: string, keys: readonly CellKey[]): TableCell[] {
      const table = this.load(courseId)
      const places = keys.map((key) => ({ key, place: this.placeOf(courseId, key) })).filter(({ place }) => place >= 0)
      const own = new Map(places.map(({ place }) => [place, [] as TableCell['readings']]))
      table.readings.script.forEach((at, i) =>
        own.get(at)?.push({ markerId: table.markers[table.readings.marker[i]!]!.id, mark: table.readings.mark[i]! }),
      )
      const { status, daysLate, entered, id } = table.scripts
      const reopened = new Set(table.reopened)
      const by = new Map(Object.entries(table.agreedBy).flatMap(([word, ids]) => ids.map((script) => [script, word])))
      return places.map(({ key: { studentId, assessmentId }, place }) => ({
        studentId,
        assessmentId,
        status: STATUSES[status[place]!]!,
        daysLate: daysLate[place]!,
        entered: entered[place]!,
        readings: own.get(place)!,
        agreed: table.agreed[id[place]!] ?? null,
        agreedBy: by.get(id[place]!) ?? null,
        reopened: reopened.has(id[place]!),
      }))
    },
    /** Where a script stands in the table's columns; −1 where nothing is recorded of it. */
    placeOf(courseId: string, { studentId, assessmentId }: CellKey): number {
      const table = this.load(courseId)
      const place = placesOf(courseId, table)
      const [student, assessment] = [place.student.get(studentId), place.assessment.get(assessmentId)]
      return student === undefined || assessment === undefined ? -1 : place.script[student * table.assessments.length + assessment]!
    },
  }

  /** A reading that came or changed may have opened its script again. */
  function settleAnew(table: TableCore, place: Places, keys: readonly CellKey[]): void {
    for (const { studentId, assessmentId } of keys) {
      const [student, assessment] = [place.student.get(studentId), place.assessment.get(assessmentId)]
      const at = student === undefined || assessment === undefined ? -1 : place.script[student * table.assessments.length + assessment]!
      const scriptId = table.scripts.id[at]
      const word = scriptId === undefined ? undefined : lastWord.get(scriptId)
      if (scriptId === undefined || !word) continue
      delete table.agreed[scriptId]
      table.reopened = table.reopened.filter((other) => other !== scriptId)
      for (const [rule, ids] of Object.entries(table.agreedBy))
        if (ids.includes(scriptId)) table.agreedBy[rule] = ids.filter((other) => other !== scriptId)
      if (word.mark === null) table.reopened.push(scriptId)
      else {
        table.agreed[scriptId] = word.mark
        const by = wordOf(word.rule)
        if (by !== null) (table.agreedBy[by] ??= []).push(scriptId)
      }
    }
  }

  function placesOf(courseId: string, table: TableCore) {
    const place = places.get(courseId) ?? placesIn(table)
    places.set(courseId, place)
    return place
  }

  /** Brings the table that is kept up to the course's version; what `work` cannot take over is read anew when it is asked for. */
  function patched(courseId: string, writes: number, work: (table: TableCore, place: Places) => CourseTable['readings'] | null): void {
    const table = kept.get(courseId)
    const { version, hasMarks } = plans.load(courseId).plan
    if (!table || table.version !== version - writes) return
    const readings = work(table, placesOf(courseId, table))
    if (readings) kept.set(courseId, { ...table, version, hasMarks, readings })
    else kept.delete(courseId)
  }
}

type Places = ReturnType<typeof placesIn>

/** Writes a script into the columns, in its place or at their end; null for one that is not on the table. */
function putScript(
  { scripts: s, assessments, students }: TableCore,
  place: Places,
  key: CellKey,
  row: { status: Status; daysLate: number; entered: number | null; version: number },
): number | null {
  const [student, assessment] = [place.student.get(key.studentId), place.assessment.get(key.assessmentId)]
  if (student === undefined || assessment === undefined) return null
  let at = place.script[student * assessments.length + assessment]!
  if (at < 0) {
    at = s.id.length
    place.script[student * assessments.length + assessment] = at
    s.id.push(scriptIdOf(key.assessmentId, students[student]!.id))
    s.student.push(student)
    s.assessment.push(assessment)
  }
  s.status[at] = STATUSES.indexOf(row.status)
  s.daysLate[at] = row.daysLate
  s.entered[at] = row.entered
  s.version[at] = row.version
  return at
}

/** Where the script of a student for an assessment stands in the columns; -1 where there is none. */
function placesIn({ students, assessments, scripts }: TableCore) {
  const script = new Int32Array(students.length * assessments.length).fill(-1)
  scripts.student.forEach((student, i) => (script[student * assessments.length + scripts.assessment[i]!] = i))
  return { student: new Map(students.map((s, i) => [s.id, i])), assessment: new Map(assessments.map((a, i) => [a.id, i])), script }
}

export type TableLoader = ReturnType<typeof tableLoader>
