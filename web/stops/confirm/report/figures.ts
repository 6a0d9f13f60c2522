import { compareGroups } from '#core/compare'
import { gradeCounts, partOf } from '#core/grades'
import { rescalingsInWords } from '#core/rescale'
import { effectsIn, readingPlaces, SOURCES } from '#core/trial'
import type { CourseState } from '../../../course/state'
import { heldBack } from '../../../parts/held-back'
import { sureFigures } from '../../../parts/sure-figures'
import { nameOfMarker } from '../../../parts/readings-of'

export interface ReportFigures {
  students: number
  finals: number
  mean: number | null
  sd: number | null
  counts: { grade: string; from: number; count: number; percent: number; wrongSide: number | null }[]
  typical: number | null
  sections: {
    name: string
    n: number
    mean: number | null
    difference: number | null
    interval: readonly [number, number] | null
    counts: number[]
  }[]
  assessments: {
    title: string
    marked: number
    /** Read by more than one, and how their marks were agreed. */
    twice: number
    settled: number
    markers: { place: number; name: string; n: number; lean: number; interval: readonly [number, number] }[]
  }[]
  rescaled: string[]
  conditions: { words: string; held: number }[]
  /** Without a grade, by section. */
  pending: { section: string; count: number }[]
}

/** All that a report for the board says, of what is adopted. */
export function reportFigures(state: CourseState): ReportFigures {
  const adopted = { ...state, tried: state.workings, current: state.adopted, changes: [] }
  const { table, workings: w } = state
  const { result } = state.adopted
  const sure = sureFigures(adopted, {})
  const place = new Map(table.students.map((s, i) => [s.id, i]))
  const bySection = table.sections.map((s) =>
    table.students.filter((x) => x.sectionId === s.id).map((x) => result.students[place.get(x.id)!]!),
  )
  const percents = bySection.map((list) => list.flatMap((s) => s.adjusted ?? []))
  const compared = compareGroups(percents.map((values, i) => ({ id: table.sections[i]!.id, values })))
  const all = percents.flat()
  const mean = all.length === 0 ? null : all.reduce((a, b) => a + b, 0) / all.length
  const titles = new Map([...table.components, ...table.assessments].map((x) => [x.id, x.title]))
  return {
    students: table.students.length,
    finals: all.length,
    mean,
    sd: all.length < 2 ? null : Math.sqrt(all.reduce((s, x) => s + (x - mean!) ** 2, 0) / (all.length - 1)),
    counts: gradeCounts(result).map((c) => ({
      ...c,
      from: result.boundaries.find((b) => b.grade === c.grade)!.from,
      wrongSide: sure.typical === null ? null : (sure.lines.find((l) => l.grade === c.grade)?.wrongSide ?? null),
    })),
    typical: sure.typical,
    sections: table.sections.map((s, i) => {
      const own = compared.groups.find((g) => g.id === s.id)
      return {
        name: s.name,
        n: percents[i]!.length,
        mean: own?.mean ?? null,
        difference: own?.difference ?? null,
        interval: own?.interval ?? null,
        counts: gradeCounts({ students: bySection[i]!, boundaries: result.boundaries }).map((c) => c.count),
      }
    }),
    assessments: table.assessments.map((a, at) => assessmentOf(adopted, a.title, at)),
    rescaled: rescalingsInWords(w.adjustments, {
      title: (id) => titles.get(id) ?? id,
      section: (id) => table.sections.find((s) => s.id === id)?.name ?? id,
      marker: (id) => nameOfMarker(table, w, w.markerIds.indexOf(id)),
    }),
    conditions: heldBack(adopted).map((h, i) => {
      const c = w.course.conditions[i]!
      return { words: `${c.least}% in ${titles.get(partOf(c)) ?? '–'}, else at most ${c.atMost}`, held: h.held.length }
    }),
    pending: table.sections.flatMap((s, i) => {
      const count = bySection[i]!.filter((x) => x.final === null).length
      return count === 0 ? [] : [{ section: s.name, count }]
    }),
  }
}

function assessmentOf({ workings: w, adopted, table }: CourseState, title: string, at: number): ReportFigures['assessments'][number] {
  const { from } = readingPlaces(w)
  let [marked, twice, settled] = [0, 0, 0]
  for (let cell = at; cell < w.cells.count; cell += w.cells.width) {
    const mark = adopted.standing.mark[cell]!
    if (mark === mark) marked++
    if (from[cell + 1]! - from[cell]! < 2) continue
    twice++
    if (['agreed', 'ruled'].includes(SOURCES[adopted.standing.source[cell]!]!)) settled++
  }
  const { effects } = effectsIn(w, at)
  return {
    title,
    marked,
    twice,
    settled,
    markers: (effects?.markers ?? []).flatMap((m, place) =>
      m.n === 0 || m.effect === null || m.interval === null
        ? []
        : [{ place, name: nameOfMarker(table, w, place), n: m.n, lean: m.effect, interval: m.interval }],
    ),
  }
}
