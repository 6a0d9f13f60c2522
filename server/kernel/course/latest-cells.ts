export interface CellKey {
  studentId: string
  assessmentId: string
}

const KEPT = 1000

/** The cells that the latest writes of each course were about, so that open sheets fetch these and not everything. */
export function latestCells() {
  const byCourse = new Map<string, { version: number; cells: readonly CellKey[]; plan: boolean }[]>()
  return {
    /** @param plan whether it changed what is decided, and no script or reading beside those cells */
    add(courseId: string, version: number, cells: readonly CellKey[], plan = false): void {
      const list = byCourse.get(courseId) ?? []
      byCourse.set(
        courseId,
        [...list, { version, cells: cells.map(({ studentId, assessmentId }) => ({ studentId, assessmentId })), plan }].slice(-KEPT),
      )
    },
    /** Each cell once; null where a version between the two is not known, since then something else was written. */
    since(courseId: string, from: number, to: number): { cells: CellKey[]; plan: boolean } | null {
      if (from > to) return null
      const between = (byCourse.get(courseId) ?? []).filter((w) => w.version > from && w.version <= to)
      if (between.length !== to - from) return null
      const once = new Map(between.flatMap((w) => w.cells.map((c) => [`${c.studentId} ${c.assessmentId}`, c])))
      return { cells: [...once.values()], plan: between.some((w) => w.plan) }
    },
  }
}
