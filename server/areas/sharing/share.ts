import {
  allocate,
  allocateFurther,
  allocatePanels,
  joiningReadings,
  linkedGroups,
  moderationSample,
  seeded,
  ShareError,
  type Allotment,
  type SampleRow,
} from '#core/share'
import { readingsOf, standingMarks, standingOf, workingsOf } from '#core/trial'
import type { CourseTable, ShareRule, SharingTried } from '#contract'
import { HttpProblem } from '../../kernel/problem'
import { readable, type allotmentQueries, type AllottedRow } from '../../kernel/course/allotments'

type Table = Omit<CourseTable, 'head'>

/** What sharing out by a rule gives: all allotments in each marker's own order, and what is to be said about them. Changes nothing. */
export function planSharing(
  table: Table,
  assessmentId: string,
  courseId: string,
  rule: ShareRule,
  queries: ReturnType<typeof allotmentQueries>,
): { allotments: Allotment[]; tried: SharingTried } {
  const now = queries.all(assessmentId)
  const wantedBefore = table.assessments.find((a) => a.id === assessmentId)!.readingsWanted
  const markers = queries.markers(courseId)
  const nameOf = new Map(markers.map((m) => [m.id, m.name]))
  for (const m of rule.markers) if (!nameOf.has(m.id)) throw new HttpProblem(422, 'There is no such marker.', { field: 'markers' })
  const moved = new Set(rule.moveBegun)
  const begun = now.filter((a) => a.state === 'handed in' || (a.state === 'draft' && !moved.has(a.markerId))).map(toAllotment)
  const reading = new Set(rule.markers.map((m) => m.id))
  const students = readable(table, assessmentId)
  const scripts = students.map((s) => ({ id: s.id, sectionId: s.sectionId }))
  const notes: string[] = []
  const taught = queries.taught(courseId)
  let ownSection = 0
  let sample: { scriptId: string; why: SharingTried['sample'][number]['why'] }[] = []
  let wanted: Allotment[]

  if (rule.how === 'everyone') wanted = scripts.flatMap((s) => rule.markers.map((m) => ({ scriptId: s.id, markerId: m.id })))
  else if (rule.how === 'by section') {
    const teacher = new Map(taught.map((s) => [s.id, s.teacherId]))
    const nobody = scripts.filter((s) => !nameOf.has(teacher.get(s.sectionId) ?? ''))
    if (nobody.length > 0) notes.push(`${nobody.length} scripts are in sections that no marker teaches: nobody reads them.`)
    wanted = scripts.flatMap((s) => {
      const markerId = teacher.get(s.sectionId)
      return markerId && nameOf.has(markerId) ? [{ scriptId: s.id, markerId }] : []
    })
  } else if (rule.how === 'panels') {
    const { panels, seed, avoidOwnSection } = rule
    const all = markers.map((m) => ({ id: m.id, ownSections: taught.filter((s) => s.teacherId === m.id).map((s) => s.id) }))
    const shared = orSentence(() => allocatePanels({ scripts, markers: all, panels, seed, avoidOwnSection, kept: begun }))
    ownSection = shared.ownSection.length
    wanted = shared.allotments
  } else {
    const only = rule.sample.only && new Set(rule.sample.only)
    if (rule.how === 'sample' && only) {
      sample = scripts.flatMap((s) => (only.has(s.id) ? [{ scriptId: s.id, why: 'chosen' as const }] : []))
      if (sample.length < only.size) notes.push(`${only.size - sample.length} of those chosen have no work here to be read.`)
    } else if (rule.how === 'sample') {
      const rows = sampleRows(table, assessmentId, scripts)
      sample = moderationSample(rows, { ...rule.sample, seed: rule.seed })
      const unmarked = scripts.length - rows.length
      if (unmarked > 0) notes.push(`${unmarked} scripts have no mark yet and cannot be in the sample.`)
      const near = rows.filter((r) => r.distance !== null && r.distance <= rule.sample.zone).length
      if (near > rows.length / 2)
        notes.push(
          `${near} of ${rows.length} are within ${rule.sample.zone} marks of a boundary: take less, or all of them may as well be read.`,
        )
    }
    const inSample = new Set(sample.map((s) => s.scriptId))
    const drawn = rule.how === 'sample' ? scripts.filter((s) => inSample.has(s.id)) : scripts
    // A sample leaves what is shared out as it is, and adds a reading.
    const kept =
      rule.how === 'sample'
        ? now.map(toAllotment)
        : rule.keep
          ? unique([...begun, ...now.filter((a) => a.state === null && reading.has(a.markerId)).map(toAllotment)])
          : begun
    const drawing = {
      scripts: drawn,
      markers: rule.markers.map((m) => ({ ...m, ownSections: taught.filter((s) => s.teacherId === m.id).map((s) => s.id) })),
      seed: rule.seed,
      avoidOwnSection: rule.avoidOwnSection,
      kept,
    }
    const shared = orSentence(() => {
      if (rule.how === 'sample' && only) return allocateFurther(drawing)
      return allocate({ ...drawing, readings: rule.how === 'sample' ? fewestOf(drawn, now.map(toAllotment)) + 1 : rule.readings })
    })
    ownSection = shared.ownSection.length
    wanted = rule.how === 'sample' ? [...kept, ...shared.allotments] : shared.allotments
  }

  const allotments = unique([...begun, ...inDrawnOrder(wanted, rule.seed)])
  const groups = linkedGroups(
    markers.map((m) => m.id).filter((id) => allotments.some((a) => a.markerId === id)),
    allotments,
  )
  const [had, has] = [keysOf(now.map(toAllotment)), keysOf(allotments)]
  const given = allotments.filter((a) => !had.has(keyOf(a)))
  const served = new Set(given.map((a) => a.scriptId))
  const unserved = sample.filter((s) => !served.has(s.scriptId)).length
  if (unserved > 0) notes.push(`${unserved} of the sample ${unserved === 1 ? 'has' : 'have'} a reader more than the others already.`)
  // Every script read so often has no mark before all of it is in; with marks about, fewer readings than were wanted leave what was wanted.
  const fewest = fewestOf(scripts, allotments)
  const marked =
    begun.length > 0 ||
    table.scripts.entered.some((e, i) => e !== null && table.assessments[table.scripts.assessment[i]!]!.id === assessmentId)
  const readingsWanted = rule.how === 'sample' ? wantedBefore : marked ? Math.max(wantedBefore, fewest) : Math.max(1, fewest)
  const several = rule.how !== 'by section' && allotments.length > scripts.length
  const titleOf = new Map(table.students.map((s) => [s.id, s.name]))
  const count = (list: { markerId: string }[], id: string) => list.filter((a) => a.markerId === id).length
  const reasons = (['fails', 'near a boundary', 'drawn', 'chosen'] as const).map((why) => ({
    why,
    scripts: sample.filter((s) => s.why === why).length,
  }))
  return {
    allotments,
    tried: {
      readingsWanted,
      opens: readingsWanted > wantedBefore ? opensWith(table, assessmentId, readingsWanted) : 0,
      loads: markers.map((m) => ({
        ...m,
        before: count(now, m.id),
        after: count(allotments, m.id),
        given: count(given, m.id),
        kept: count(begun, m.id),
      })),
      readings: given.length,
      stay: allotments.length - given.length,
      taken: now.filter((a) => !has.has(keyOf(toAllotment(a)))).length,
      ownSection,
      groups: groups.map((g) => g.map((id) => nameOf.get(id)!)),
      joining: several
        ? joiningReadings(groups, allotments).map((a) => ({ student: titleOf.get(a.scriptId) ?? '', marker: nameOf.get(a.markerId)! }))
        : [],
      sample: reasons.filter((r) => r.scripts > 0),
      notes,
    },
  }
}

/** How many readers the script with the fewest of them has. */
function fewestOf(scripts: { id: string }[], allotments: readonly Allotment[]): number {
  const readers = new Map<string, number>()
  for (const a of allotments) readers.set(a.scriptId, (readers.get(a.scriptId) ?? 0) + 1)
  return scripts.length === 0 ? 0 : Math.min(...scripts.map((s) => readers.get(s.id) ?? 0))
}

const toAllotment = (a: AllottedRow): Allotment => ({ scriptId: a.studentId, markerId: a.markerId })

const keyOf = (a: Allotment) => `${a.scriptId} ${a.markerId}`
const keysOf = (list: readonly Allotment[]): ReadonlySet<string> => new Set(list.map(keyOf))

function unique(list: readonly Allotment[]): Allotment[] {
  const seen = new Set<string>()
  return list.filter((a) => !seen.has(keyOf(a)) && seen.add(keyOf(a)))
}

/** Nobody reads in the order of the roll, and two readers of one script do not reach it at the same time. */
function inDrawnOrder(allotments: readonly Allotment[], seed: number): Allotment[] {
  return seeded(seed).shuffled(allotments)
}

/** The course's boundaries, as marks of an assessment, and its own pass mark. */
export const linesOf = (
  { boundaries }: Pick<Table, 'boundaries'>,
  { outOf, passMark }: { outOf: number; passMark: number | null },
): number[] => [...boundaries.filter((b) => b.from > 0).map((b) => (b.from / 100) * outOf), ...(passMark === null ? [] : [passMark])]

/** Marks that stand and would be open with so many readings wanted. */
function opensWith(table: Table, assessmentId: string, readingsWanted: number): number {
  const open = (t: Table) => {
    const w = workingsOf(t)
    return standingOf(w, standingMarks(w), assessmentId).filter((s) => s.source === 'open').length
  }
  return open({ ...table, assessments: table.assessments.map((a) => (a.id === assessmentId ? { ...a, readingsWanted } : a)) }) - open(table)
}

/** Scripts with a plain mark, how far it is from the pass mark, and whether it fails. */
function sampleRows(table: Table, assessmentId: string, scripts: { id: string; sectionId: string }[]): SampleRow[] {
  const assessment = table.assessments.find((a) => a.id === assessmentId)!
  const workings = workingsOf(table)
  const marks = new Map(
    standingOf(workings, standingMarks(workings), assessmentId).flatMap((s) => {
      const mark = s.plain ?? readingsOf(workings, s.cell)[0]?.mark
      return mark === undefined ? [] : [[s.studentId, mark] as const]
    }),
  )
  const lines = linesOf(table, assessment)
  return scripts.flatMap((s) => {
    const mark = marks.get(s.id)
    if (mark === undefined) return []
    return [
      {
        scriptId: s.id,
        sectionId: s.sectionId,
        mark,
        fails: assessment.passMark !== null && mark < assessment.passMark,
        distance: lines.length > 0 ? Math.min(...lines.map((l) => Math.abs(l - mark))) : null,
      },
    ]
  })
}

function orSentence<T>(work: () => T): T {
  try {
    return work()
  } catch (e) {
    if (e instanceof ShareError) throw new HttpProblem(422, e.message, { field: 'markers' })
    throw e
  }
}
