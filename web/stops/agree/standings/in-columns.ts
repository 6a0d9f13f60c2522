import type { Standings } from '#core/outcomes'

/** Where no level stands, or nothing was counted. */
const NONE = -1

/** Standings as the worker hands them over: objects of a large department take longer to cross than to work out. */
export interface StandingsColumns {
  students: string[]
  sections: string[]
  /** How many outcomes each student stands on; the columns below hold these, student by student. */
  outcomes: number
  value: Float64Array
  level: Int8Array
  reached: Uint8Array
  met: Int32Array
  of: Int32Array
  /** How many results each has, and all their levels one after the other. */
  results: Uint32Array
  history: Uint8Array
}

export function standingsInColumns(rows: readonly Standings[]): StandingsColumns {
  const all = rows.flatMap((r) => r.standings)
  return {
    students: rows.map((r) => r.studentId),
    sections: rows.map((r) => r.sectionId),
    outcomes: rows[0]?.standings.length ?? 0,
    value: Float64Array.from(all, (s) => s.value ?? NaN),
    level: Int8Array.from(all, (s) => s.level ?? NONE),
    reached: Uint8Array.from(all, (s) => Number(s.reached)),
    met: Int32Array.from(all, (s) => s.counted?.met ?? NONE),
    of: Int32Array.from(all, (s) => s.counted?.of ?? NONE),
    results: Uint32Array.from(all, (s) => s.history.length),
    history: Uint8Array.from(all.flatMap((s) => s.history)),
  }
}

export function standingsFrom(c: StandingsColumns): Standings[] {
  let from = 0
  const one = (i: number): Standings['standings'][number] => {
    const results = c.results[i]!
    const history = Array.from(c.history.subarray(from, from + results))
    from += results
    return {
      value: Number.isNaN(c.value[i]) ? null : c.value[i]!,
      level: c.level[i] === NONE ? null : c.level[i]!,
      reached: c.reached[i] === 1,
      counted: c.met[i] === NONE ? null : { met: c.met[i]!, of: c.of[i]! },
      results,
      history,
    }
  }
  return c.students.map((studentId, s) => ({
    studentId,
    sectionId: c.sections[s]!,
    standings: Array.from({ length: c.outcomes }, (_, k) => one(s * c.outcomes + k)),
  }))
}
