/** The id of a student's script for an assessment. */
export const scriptIdOf = (assessmentId: string, studentId: string): string => `${assessmentId}:${studentId}`

/** Whether an id is what `scriptIdOf` gives, without making that for each of hundreds of thousands. */
export const isScriptIdOf = (id: string, assessmentId: string, studentId: string): boolean =>
  id.length === assessmentId.length + 1 + studentId.length &&
  id.charCodeAt(assessmentId.length) === 58 &&
  id.startsWith(assessmentId) &&
  id.endsWith(studentId)

/**
 * The cells of a course: one for each student and assessment, in rows of students, both in the order they were given in.
 * A cell is a number, so that what is known of hundreds of thousands of them stands in plain columns.
 */
export class Cells {
  readonly width: number
  readonly count: number
  private readonly studentAt: ReadonlyMap<string, number>
  private readonly assessmentAt: ReadonlyMap<string, number>
  private readonly byOtherId: ReadonlyMap<string, number>

  /** @param otherIds cell → the id of its script, where it is not what `scriptIdOf` gives */
  constructor(
    readonly studentIds: readonly string[],
    readonly assessmentIds: readonly string[],
    readonly otherIds: ReadonlyMap<number, string> = new Map(),
  ) {
    this.width = assessmentIds.length
    this.count = studentIds.length * this.width
    this.studentAt = new Map(studentIds.map((id, i) => [id, i]))
    this.assessmentAt = new Map(assessmentIds.map((id, i) => [id, i]))
    this.byOtherId = new Map([...otherIds].map(([cell, id]) => [id, cell]))
  }

  /** Place of a student in the rows; −1 for who is not there. */
  student = (id: string): number => this.studentAt.get(id) ?? -1
  /** Place of an assessment in each row; −1 for one that is not there. */
  assessment = (id: string): number => this.assessmentAt.get(id) ?? -1

  /** The cell of a student and an assessment; −1 where either is not there. */
  of(studentId: string, assessmentId: string): number {
    const [student, assessment] = [this.student(studentId), this.assessment(assessmentId)]
    return student < 0 || assessment < 0 ? -1 : student * this.width + assessment
  }

  studentId = (cell: number): string => this.studentIds[Math.floor(cell / this.width)]!
  assessmentId = (cell: number): string => this.assessmentIds[cell % this.width]!

  scriptId = (cell: number): string => this.otherIds.get(cell) ?? scriptIdOf(this.assessmentId(cell), this.studentId(cell))

  /** The cell of a script; −1 for one that is not there. */
  ofScript(scriptId: string): number {
    const other = this.byOtherId.get(scriptId)
    if (other !== undefined) return other
    // Ids may hold a colon themselves, so every one is tried.
    for (let at = scriptId.indexOf(':'); at >= 0; at = scriptId.indexOf(':', at + 1)) {
      const cell = this.of(scriptId.slice(at + 1), scriptId.slice(0, at))
      if (cell >= 0 && !this.otherIds.has(cell)) return cell
    }
    return -1
  }
}
