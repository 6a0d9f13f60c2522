import { group, rollup } from 'd3-array'
import type { FileClass, RosterMatch } from './roll-file'
import { isDeleted, namedFile, readSheet, type RosterRow } from './roster-files'

const same = (a: string, b: string) => a.trim().toLowerCase() === b.trim().toLowerCase()

export interface RosterClasses {
  /** Those that the file describes. */
  byId: ReadonlyMap<string, RosterRow>
  /** By which code a section is known; undefined for a class that is neither in the file nor here. */
  codeOf: (classId: string) => string | undefined
  /** Those that are read. */
  ours: ReadonlySet<string>
  /** What can be chosen from. */
  told: (students: ReadonlyMap<string, number>) => FileClass[]
}

/**
 * The classes of a roster, each what its id says, and which of them are a course's: those that were chosen; else all where they are of
 * one course; else those known here; else those of a course with our code or title.
 * @param delta whether the file says only what changed: what it does not describe is known here then
 */
export function rosterClasses(
  files: ReadonlyMap<string, Uint8Array>,
  rows: readonly RosterRow[],
  delta: boolean,
  { chosen, here }: RosterMatch,
  whole: string,
): RosterClasses {
  const classes = rows.filter((c) => !isDeleted(c))
  const courses = new Map(
    (namedFile(files, 'courses.csv') ? readSheet(files, 'courses.csv', ['sourcedId', 'title'], whole) : []).map((c) => [c.sourcedId!, c]),
  )
  const codeHere = new Map(here.classes.map((c) => [c.sourceId, c.code]))
  const byId = new Map(classes.map((c) => [c.sourcedId!, c]))

  // Where two share a code they stay two, each known by its id.
  const codes = rollup(
    classes,
    (alike) => alike.length,
    (c) => c.classCode?.toLowerCase() ?? '',
  )
  const isAnothers = (c: RosterRow) => here.classes.some((h) => h.sourceId !== c.sourcedId && same(h.code, c.classCode!))
  const newCode = (c: RosterRow) =>
    c.classCode && codes.get(c.classCode.toLowerCase()) === 1 && !isAnothers(c) ? c.classCode : c.sourcedId!
  const codeOf = (id: string) => {
    const c = byId.get(id)
    return codeHere.get(id) ?? (c && newCode(c))
  }

  function likely(): RosterRow[] {
    if (group(classes, (c) => c.courseSourcedId ?? '').size <= 1) return classes
    const known = classes.filter((c) => codeHere.has(c.sourcedId!))
    if (known.length > 0) return known
    return classes.filter((c) => {
      const { courseCode = '', title = '' } = courses.get(c.courseSourcedId ?? '') ?? {}
      return (courseCode !== '' && same(courseCode, here.course.code)) || (title !== '' && same(title, here.course.title))
    })
  }
  const undescribed = delta ? [...codeHere.keys()].filter((id) => !byId.has(id)) : []
  const ours = new Set([...(chosen ?? likely().map((c) => c.sourcedId!)), ...undescribed])

  return {
    byId,
    codeOf,
    ours,
    told: (students) =>
      classes.map((c) => {
        const course = courses.get(c.courseSourcedId ?? '')
        return {
          sourceId: c.sourcedId!,
          code: codeOf(c.sourcedId!)!,
          title: c.title ?? '',
          course: course ? [course.courseCode, course.title].filter(Boolean).join(' ') : (c.courseSourcedId ?? ''),
          students: students.get(c.sourcedId!) ?? 0,
          chosen: ours.has(c.sourcedId!),
        }
      }),
  }
}
