import { DetailedCellError, HyperFormula } from 'hyperformula'
import { gradeCourse, gradePacked, packCourse, type Course, type MarkRow } from '#core/grades'
import { random } from '../demo/random'

const ASSESSMENTS = 40
const COMPONENTS = 5

/** A course whose plan a weighted sum can do too: everything counts, nothing is dropped, all is marked. */
export function bigCourse(students: number): Course {
  const rng = random(40)
  const assessments = Array.from({ length: ASSESSMENTS }, (_, i) => ({
    id: `a${String(i).padStart(2, '0')}`,
    componentId: `c${i % COMPONENTS}`,
    outOf: [20, 25, 30, 40, 80][i % 5]!,
    worth: 5 + (i % 4) * 5,
    counts: true,
    bonus: false,
    droppable: true,
  }))
  const roll = Array.from({ length: students }, (_, i) => ({ id: `s${i}`, sectionId: `x${i % 400}` }))
  const marks: MarkRow[] = []
  for (const s of roll)
    for (const a of assessments)
      marks.push({ studentId: s.id, assessmentId: a.id, mark: Math.round(rng.next() * a.outOf * 2) / 2, status: 'in', daysLate: 0 })
  const sections = new Set(roll.map((s) => s.sectionId))
  return {
    policy: {
      missing: { kind: 'zero' },
      absent: { kind: 'pending' },
      late: { kind: 'perDay', percent: 5, maxDays: 5 },
      rounding: { decimals: 1 },
      above100: 'cap',
    },
    components: Array.from({ length: COMPONENTS }, (_, i) => ({
      id: `c${i}`,
      weight: 20,
      combine: 'byWorth',
      dropLowest: 0,
      bonus: false,
    })),
    assessments,
    placements: [...sections].flatMap((sectionId) => assessments.map((a) => ({ assessmentId: a.id, sectionId }))),
    students: roll,
    marks,
    boundaries: [
      { grade: 'Distinction', from: 80 },
      { grade: 'Merit', from: 70 },
      { grade: 'Credit', from: 60 },
      { grade: 'Pass', from: 50 },
      { grade: 'Refer', from: 0 },
    ],
  }
}

const ROUNDS = 9

/** Milliseconds of each of some pieces of work, the median of rounds in which they take turns. */
export function takeTurns(work: Record<string, () => unknown>, rounds = ROUNDS): Record<string, number> {
  const times: Record<string, number[]> = {}
  for (let i = 0; i < rounds; i++)
    for (const [name, run] of Object.entries(work)) {
      const from = performance.now()
      run()
      ;(times[name] ??= []).push(performance.now() - from)
    }
  return Object.fromEntries(Object.entries(times).map(([name, list]) => [name, list.sort((a, b) => a - b)[Math.floor(list.length / 2)]!]))
}

/** Weights by column, so that Σ mark·weight is the course percent. */
function columnWeights(course: Course): Float64Array {
  const inside = new Map<string, number>()
  for (const a of course.assessments) inside.set(a.componentId, (inside.get(a.componentId) ?? 0) + a.worth)
  const total = course.components.reduce((s, c) => s + c.weight, 0)
  const order = packCourse({ ...course, students: [], marks: [] }).assessmentIds
  return Float64Array.from(order, (id) => {
    const a = course.assessments.find((x) => x.id === id)!
    return ((course.components.find((c) => c.id === a.componentId)!.weight / total) * 100 * a.worth) / inside.get(a.componentId)! / a.outOf
  })
}

/** The bare typed-array weighted sum of some marks: what no engine can be faster than. It is handed its columns, as the engine is. */
function weightedSum(mark: Float64Array, weights: Float64Array, sums: Float64Array): Float64Array {
  const width = weights.length
  for (let s = 0, cell = 0; s < sums.length; s++) {
    let t = 0
    for (let a = 0; a < width; a++) t += mark[cell++]! * weights[a]!
    sums[s] = t
  }
  return sums
}

export function benchFloor(students: number): void {
  // The course as objects is let go before its columns are timed: collecting garbage among two million rows is not the engine's work.
  const { packed, weights } = laidOut(bigCourse(students))
  const sums = new Float64Array(students)
  const { mark } = packed
  /** The same loop once more, over columns that the compiler takes for constants, as it does in no engine. */
  const built = () => {
    for (let s = 0, cell = 0; s < students; s++) {
      let t = 0
      for (let a = 0; a < ASSESSMENTS; a++) t += mark[cell++]! * weights[a]!
      sums[s] = t
    }
    return sums
  }
  const bare = () => weightedSum(mark, weights, sums)
  const table = gradePacked(packed)
  bare()
  const apart = sums.reduce((most, t, s) => Math.max(most, Math.abs(t - table.final[s]!)), 0)
  if (!(apart < 1e-9)) throw new Error(`the two disagree by ${apart}`)
  const c = takeTurns({ bare, built, columns: () => gradePacked(packed) }, 25)
  const course = bigCourse(students)
  const o = takeTurns({ bare, objects: () => gradeCourse(course).students }, 25)
  const times = (ms: number, of: number, aim: number) => `${(ms / of).toFixed(1)} times the bare sum (aim: ${aim} or less)`
  console.log(`gradeCourse, ${students} students × ${ASSESSMENTS} assessments, beside a bare typed-array weighted sum of the same numbers`)
  console.log(`  bare sum                       ${c.bare!.toFixed(1)} ms   (${c.built!.toFixed(1)} ms with its columns as constants)`)
  console.log(`  the engine over columns        ${c.columns!.toFixed(1)} ms   ${times(c.columns!, c.bare!, 6)}`)
  console.log(`  from objects to result objects ${o.objects!.toFixed(1)} ms   ${times(o.objects!, o.bare!, 25)}`)
  globalThis.gc?.()
  const before = process.memoryUsage()
  const kept = gradePacked(packed)
  const after = process.memoryUsage()
  const mb = (x: number) => (x / 2 ** 20).toFixed(1)
  console.log(
    `  memory: marks as columns ${mb(packed.mark.byteLength + packed.status.byteLength)} MB; results ${mb(after.arrayBuffers - before.arrayBuffers)} MB for ${kept.final.length} students`,
  )
}

const laidOut = (course: Course) => ({ packed: packCourse(course), weights: columnWeights(course) })

export function benchFormulas(students: number): void {
  const course = bigCourse(students)
  const weights = columnWeights(course)
  const packed = packCourse(course)
  const letters = columnName(ASSESSMENTS - 1)
  // Row 1 holds the weights; then a row a student with the sum, rounded, and the grade looked up.
  const sheet = [
    [...weights],
    ...course.students.map((_, s) => [
      ...packed.mark.subarray(s * ASSESSMENTS, (s + 1) * ASSESSMENTS),
      `=ROUND(MMULT(A${s + 2}:${letters}${s + 2},TRANSPOSE($A$1:$${letters}$1)),1)`,
      `=IF(AO${s + 2}>=80,"Distinction",IF(AO${s + 2}>=70,"Merit",IF(AO${s + 2}>=60,"Credit",IF(AO${s + 2}>=50,"Pass","Refer"))))`,
    ]),
  ]
  let grades: unknown[] = []
  const formulas = () => {
    const engine = HyperFormula.buildFromArray(sheet, { licenseKey: 'gpl-v3', maxRows: students + 10 })
    grades = course.students.map((_, s) => engine.getCellValue({ sheet: 0, row: s + 1, col: ASSESSMENTS + 1 }))
    engine.destroy()
  }
  // Both sides warm: the formula engine has built the sheet once, the other has graded it a few times.
  formulas()
  takeTurns({ objects: () => gradeCourse(course).students, columns: () => gradePacked(packed) })
  const t = takeTurns({ formulas, objects: () => gradeCourse(course).students, columns: () => gradePacked(packed) }, 3)
  const own = gradeCourse(course).students
  const differ = own.filter((s, i) => grades[i] instanceof DetailedCellError || grades[i] !== s.grade).length
  console.log(`beside the same sheet in a general formula engine, ${students} students × ${ASSESSMENTS} assessments, from marks to grades`)
  console.log(`  formula engine                 ${t.formulas!.toFixed(0)} ms`)
  console.log(
    `  gradeCourse from objects       ${t.objects!.toFixed(1)} ms   ${(t.formulas! / t.objects!).toFixed(0)} times as fast (aim: 50 or more)`,
  )
  console.log(`  the engine over columns        ${t.columns!.toFixed(1)} ms   ${(t.formulas! / t.columns!).toFixed(0)} times as fast`)
  console.log(`  grades that differ (ties that doubles miss): ${differ}`)
}

function columnName(at: number): string {
  return at < 26 ? String.fromCharCode(65 + at) : columnName(Math.floor(at / 26) - 1) + columnName(at % 26)
}
