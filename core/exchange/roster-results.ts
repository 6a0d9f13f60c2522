import type { Status } from '../grades/course'
import { MOST_REMARK } from '../marking/cell-value'
import { markInRoster } from './roster-mark'
import { FileError } from './delimited'
import type { FileMark, MarksFile } from './marks-file'
import {
  isDeleted,
  lineOf,
  namedFile,
  putFrame,
  readAll,
  readSheet,
  rosterWriter,
  studentId,
  userRow,
  type RosterCourse,
  type RosterNames,
  type RosterRow,
} from './roster-files'
import type { Day } from '../roll/days'

/** Whether an unpacked archive holds results in the open format. */
export const isRosterResults = (files: ReadonlyMap<string, Uint8Array>): boolean => !!namedFile(files, 'results.csv')

const WHOLE = 'lineItems.csv and results.csv'
const OWN: readonly string[] = ['late', 'missing', 'absent', 'exempt', 'held']

/**
 * Reads results (OneRoster 1.2 CSV): each as a candidate, an assessment by its title, and the words of a cell of the mark
 * sheet. A candidate is the user's identifier where users.csv comes with it, else the id of the student from outside.
 * @throws FileError where a file or a column is missing
 */
export function readRosterResults(files: ReadonlyMap<string, Uint8Array>): MarksFile {
  const items = new Map(readSheet(files, 'lineItems.csv', ['sourcedId', 'title'], WHOLE).map((i) => [i.sourcedId!, i]))
  const users = new Map(
    namedFile(files, 'users.csv') ? readSheet(files, 'users.csv', ['sourcedId'], WHOLE).map((u) => [u.sourcedId!, u]) : [],
  )
  const marks: FileMark[] = []
  const faults: MarksFile['faults'] = []
  let [partial, long, deleted] = [0, 0, 0]
  const remarkIn = (comment: string): string => {
    const words = comment.trim()
    if (words.length > MOST_REMARK) long++
    return words.slice(0, MOST_REMARK)
  }
  readAll(files, 'results.csv', ['lineItemSourcedId', 'studentSourcedId', 'scoreStatus', 'score'], WHOLE).forEach((r) => {
    if (isDeleted(r)) {
      deleted++
      return
    }
    const line = lineOf(r)
    const candidate = users.get(r.studentSourcedId!)?.identifier || r.studentSourcedId!.replace(/^candidate-/, '')
    const item = items.get(r.lineItemSourcedId!)
    if (!item) {
      const reason = `No line in lineItems.csv has the id ${r.lineItemSourcedId!.slice(0, 40)}.`
      faults.push({ line, column: 'results.csv lineItemSourcedId', candidate, assessment: '', reason })
      return
    }
    // Whoever marks there has not said yet what it comes to.
    if (r.scoreStatus === 'partially graded') {
      partial++
      return
    }
    const outOf = Number(item.resultValueMax)
    marks.push({
      line,
      column: 'results.csv score',
      candidate,
      assessment: item.title!,
      text: cellText(r),
      ...(r.comment?.trim() ? { remark: remarkIn(r.comment) } : {}),
      ...(item.resultValueMax && Number.isFinite(outOf) ? { outOf } : {}),
    })
  })
  if (marks.length === 0 && faults.length === 0 && partial + deleted === 0) throw new FileError('There is no result in results.csv.')
  const told = (n: number, words: string) => (n === 0 ? [] : [`${n === 1 ? 'One result' : `${n} results`} ${words}`])
  return {
    marks,
    faults,
    notes: [
      ...told(partial, `in the file ${partial === 1 ? 'is' : 'are'} graded in part: still a draft there, and left as it is here.`),
      ...told(
        deleted,
        `${deleted === 1 ? 'is' : 'are'} deleted there. The marks here stay: take them back in the sheet where that is meant.`,
      ),
      ...told(
        long,
        `${long === 1 ? 'has a comment' : 'have comments'} of more than ${MOST_REMARK} characters: the beginning is brought in.`,
      ),
    ],
    table: null,
  }
}

/** A result in the words of a cell. */
function cellText(r: RosterRow): string {
  const own = r['metadata.status'] ?? ''
  const said = OWN.includes(own)
    ? own
    : r.scoreStatus === 'exempt'
      ? 'exempt'
      : r.late === 'true'
        ? 'late'
        : r.missing === 'true' || r.scoreStatus === 'not submitted'
          ? 'missing'
          : ''
  // Lateness is taken here by the policy of the course: of a score that it was taken of already, it is put back.
  const taken = Number(r['metadata.takenForLateness'] || 0)
  const mark = r.score && taken < 0 ? String(Number((Number(r.score) - taken).toFixed(3))) : r.score || r.textScore || ''
  // A file of ours says how many days, also where that is none; of another's late work nothing is known but that it is.
  const days = r['metadata.daysLate'] || (own === 'late' ? 0 : '')
  return said === 'late' ? `${mark} late ${days}`.trim() : said || mark
}

export interface ResultToWrite {
  studentId: string
  candidate: string
  name: string
  externalId: string | null
  sectionId: string
  assessmentId: string
  mark: number | null
  status: Status
  daysLate: number
  /** What the student is to read beside it. */
  remark: string
}

/** What results are of, and the day on which they stand so. */
export interface ResultsOf {
  course: RosterCourse
  day: Day
  components: readonly { id: string; title: string; weight: number | null }[]
  assessments: readonly { id: string; title: string; outOf: number; componentId: string }[]
  placements: readonly { assessmentId: string; sectionId: string; due: Day | null }[]
  names: RosterNames
}

/**
 * Results as a zip of lineItems.csv, results.csv and users.csv (OneRoster 1.2 CSV) that reads back as the same cells. A blank
 * is no result, and is left out.
 */
export function writeRosterResults(
  { course, day, components, assessments, placements, names }: ResultsOf,
  results: Iterable<ResultToWrite>,
): Uint8Array {
  const { put, pack } = rosterWriter(['academicSessions.csv', 'orgs.csv', 'categories.csv', 'lineItems.csv', 'results.csv', 'users.csv'])
  const { set } = putFrame(put, course)
  for (const c of components) put('categories.csv', { sourcedId: c.id, title: c.title, weight: c.weight === null ? '' : String(c.weight) })
  const byId = new Map(assessments.map((a) => [a.id, a]))
  const itemId = (assessmentId: string, sectionId: string) => `${assessmentId}-${sectionId}`
  const written = new Set<string>()
  const item = (assessmentId: string, sectionId: string, due: string | null) => {
    const { title, outOf, componentId } = byId.get(assessmentId)!
    const sourcedId = itemId(assessmentId, sectionId)
    if (written.has(sourcedId)) return
    written.add(sourcedId)
    put('lineItems.csv', {
      sourcedId,
      title,
      ...set(due ?? course.lastDay),
      classSourcedId: names.classOf(sectionId),
      categorySourcedId: componentId,
      resultValueMin: '0',
      resultValueMax: String(outOf),
    })
  }
  for (const p of placements) item(p.assessmentId, p.sectionId, p.due)
  const users = new Set<string>()
  for (const r of results) {
    if (r.mark === null && r.status === 'in') continue
    item(r.assessmentId, r.sectionId, null)
    const studentSourcedId = studentId(r.externalId, r.candidate)
    if (!users.has(studentSourcedId)) {
      users.add(studentSourcedId)
      put('users.csv', userRow(studentSourcedId, r.name, names.partsOf(r.studentId), r.candidate, null))
    }
    put('results.csv', {
      sourcedId: `${r.assessmentId}-${studentSourcedId}`,
      lineItemSourcedId: itemId(r.assessmentId, r.sectionId),
      studentSourcedId,
      scoreDate: day,
      comment: r.remark,
      classSourcedId: names.classOf(r.sectionId),
      ...markInRoster(r),
    })
  }
  return pack()
}
