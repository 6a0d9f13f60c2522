import { addDays, formatISO, parseISO } from 'date-fns'
import { rubricMark, scaleValue, schemeMark, type Picks } from '#core/scales'
import type { Db } from '../server/kernel/db/open'
import { markerId, scriptId, type CourseSpec, type DemoStudent, type Size } from './department'
import { clamp, half, type Random } from './random'
import { FIELD_BOOK_SCHEME, MAP_RUBRIC, VIVA_SCALE, type PlanItem } from './standards'

/** The week of term in which the story is told. */
const TOLD_IN = 12

/** How a marker marks, by their place in the list: percent added, and how far they scatter. */
const SEVERE = 4
const GENEROUS = 1
const ERRATIC = 9
/** Two who read one section's scripts together and share none with the others. */
const APART = [7, 8] as const

export const leanOf = (marker: number): number => (marker === SEVERE ? -6 : marker === GENEROUS ? 5 : 0)
/** How far one reading lies from what its marker would give in the middle, by a draw from the standard normal: the erratic one is far off either way. */
const scattered = (marker: number, draw: number): number => (marker === ERRATIC ? 6 * Math.sign(draw) + 2 * draw : 1.8 * draw)

const COMMENTS = [
  'Contours clear, but the crag is lost under the index line.',
  'Detail kept where the scale cannot carry it.',
  'Shed with judgement above the terrace.',
  'A sheet one could walk with in mist.',
  'Lettering follows the water well; the summits crowd.',
  'Datum named, the tie to it is not shown.',
  'Quiet and legible; relief a little timid.',
  'The reader is named and then forgotten.',
]

/** What happened in a course that its marks should show. */
export interface Happenings {
  /** Item id → section → percent added there (an easier paper). */
  easier: Record<string, Record<number, number>>
  /** Scripts of the doubly read item whose two readings lie far apart, by student id → gap in marks. */
  apart: Record<string, number>
  /** Items × sections whose marks have not come in. */
  waiting: { item: string; section: number }[]
}

/** The second reader of a section's scripts. */
function secondReader(section: number, nth: number, size: Size): number {
  const first = section % size.markers
  if (APART.includes(first as 7 | 8)) return first === APART[0] ? APART[1] : APART[0]
  const pool = Array.from({ length: size.markers }, (_, i) => i).filter((i) => i !== first && !APART.includes(i as 7 | 8))
  return pool[(nth + section) % pool.length]!
}

export function marksWriter(db: Db, spec: CourseSpec, size: Size, rng: Random) {
  const entered = db.prepare('UPDATE script SET entered = ?, status = ?, days_late = ?, came_at = ? WHERE id = ?')
  const reading = db.prepare(
    `INSERT INTO reading (id, script_id, marker_id, standard_id, mark, picks, judgement, comment, state, handed_in_at)
     VALUES (?, ?, ?, ?, ?, ?, ?, ?, 'handed in', ?)`,
  )
  // Some days after the work was due, and never after the day on which the story is told.
  const handedIn = (week: number, nth: number) => {
    const day = formatISO(addDays(parseISO(spec.firstDay), Math.min(TOLD_IN - 1, week) * 7 + 5), { representation: 'date' })
    return `${day}T0${Math.min(9, nth)}:00:00.000Z`
  }

  function read(item: PlanItem, student: DemoStudent, marker: number, nth: number, target: number): number {
    const done = judged(item, target, rng)
    const id = scriptId(spec, item.id, student.id)
    const comment = item.marking === 'rubric' ? rng.pick(COMMENTS) : ''
    reading.run(
      `${id}/${markerId(marker)}`,
      id,
      markerId(marker),
      item.standard ?? null,
      done.mark,
      JSON.stringify(done.picks),
      done.judgement,
      comment,
      handedIn(item.week, nth),
    )
    return done.mark
  }

  return {
    status(item: PlanItem, student: DemoStudent, status: string, daysLate = 0) {
      entered.run(null, status, daysLate, null, scriptId(spec, item.id, student.id))
    },
    enter(item: PlanItem, student: DemoStudent, target: number, daysLate = 0) {
      const mark = item.outOf === 1 ? Number(rng.chance(0.95)) : clamp(half((item.outOf * target) / 100), 0, item.outOf)
      entered.run(mark, daysLate > 0 ? 'late' : 'in', daysLate, null, scriptId(spec, item.id, student.id))
    },
    readOnce(item: PlanItem, student: DemoStudent, level: number) {
      const marker = student.section % size.markers
      read(item, student, marker, 1, level + leanOf(marker) / 2)
    },
    /** Two readings within the tolerance, or as far apart as the story says. */
    readTwice(item: PlanItem, student: DemoStudent, nth: number, level: number, gap: number | undefined) {
      const first = student.section % size.markers
      // Students come section by section in turn, so that those of one section are so many apart.
      const second = secondReader(student.section, Math.floor(nth / size.sections), size)
      const a = read(item, student, first, 1, level + leanOf(first) + scattered(first, rng.normal(0, 1)))
      const room = item.tolerance! - 1
      const wanted =
        gap === undefined
          ? clamp(level + leanOf(second) + scattered(second, rng.normal(0, 1)), a - room, a + room)
          : a > 62
            ? a - gap
            : a + gap
      read(item, student, second, 2, wanted)
    },
    /** A panel of three on a scale of words: at most one label apart. */
    readByPanel(item: PlanItem, student: DemoStudent, nth: number, level: number) {
      const labels = VIVA_SCALE.labels
      const base = Math.max(
        0,
        labels.findLastIndex((l) => l.threshold <= level),
      )
      const other = clamp(base + (rng.chance(0.5) ? 1 : -1), 0, labels.length - 1)
      const panel = APART.includes((student.section % size.markers) as 7 | 8) ? [...APART] : []
      for (let i = 0; panel.length < Math.min(3, size.markers); i++) {
        const marker = (student.section + nth + i * 3) % size.markers
        if (!panel.includes(marker as 7)) panel.push(marker as 7)
      }
      panel.forEach((marker, i) => read(item, student, marker, i + 1, labels[rng.chance(0.3) ? other : base]!.percent))
    },
    /** A second reading beside the first, for the sample. */
    readAgain(item: PlanItem, student: DemoStudent, mark: number, nth: number) {
      const near = clamp(half(mark + rng.normal(0, 1.2)), mark - item.tolerance!, mark + item.tolerance!)
      read(item, student, secondReader(student.section, nth, size), 2, (clamp(near, 0, item.outOf) / item.outOf) * 100)
    },
  }
}

/** What a reading that aims at a percent records. */
function judged(item: PlanItem, target: number, rng: Random): { mark: number; picks: Picks; judgement: string | null } {
  const percent = clamp(target, 4, 100)
  if (item.marking === 'rubric') {
    const picks = rubricPicks((percent / 100) * 40, rng)
    return { mark: rubricMark(MAP_RUBRIC, picks, item.outOf)!, picks, judgement: null }
  }
  if (item.marking === 'scheme') {
    const picks = schemePoints(percent / 100, rng)
    return { mark: schemeMark(FIELD_BOOK_SCHEME, picks, item.outOf)!, picks, judgement: null }
  }
  if (item.marking === 'judgement') {
    const label = [...VIVA_SCALE.labels].sort((a, b) => Math.abs(a.percent - percent) - Math.abs(b.percent - percent))[0]!.label
    return { mark: (scaleValue(VIVA_SCALE, label)! / 100) * item.outOf, picks: {}, judgement: label }
  }
  return { mark: clamp(half((item.outOf * percent) / 100), 0, item.outOf), picks: {}, judgement: null }
}

const TELLS_NOBODY_APART = 'sources'

/** Levels near the target's share; Generalisation, which takes half points, makes up the rest. */
function rubricPicks(total: number, rng: Random): Picks {
  const picks: Picks = { 'sheet-rules': rng.chance(0.04) ? 2 : 0 }
  const others = MAP_RUBRIC.criteria.filter((c) => !c.penalty && !c.ranges)
  for (const c of others) {
    const top = c.levels.at(-1)!.points
    const aim = (total / 40) * top + rng.normal(0, top * 0.12)
    // Everybody finds the sources named in full: a criterion that tells nobody apart.
    picks[c.id] =
      c.id === TELLS_NOBODY_APART ? top : c.levels.map((l) => l.points).sort((a, b) => Math.abs(a - aim) - Math.abs(b - aim))[0]!
  }
  const telling = others.filter((c) => c.id !== TELLS_NOBODY_APART)
  const rest = () => total + picks['sheet-rules']! - others.reduce((s, c) => s + picks[c.id]!, 0)
  for (let i = 0; i < 8 && (rest() < 0 || rest() > 10); i++) {
    const c = telling[i % telling.length]!
    const at = c.levels.findIndex((l) => l.points === picks[c.id])
    picks[c.id] = c.levels[clamp(at + (rest() > 10 ? 1 : -1), 0, c.levels.length - 1)]!.points
  }
  picks.generalisation = clamp(half(rest()), 0, 10)
  return picks
}

function schemePoints(share: number, rng: Random): Picks {
  return Object.fromEntries(FIELD_BOOK_SCHEME.criteria.map((c) => [c.id, clamp(half(c.max * share + rng.normal(0, 0.6)), 0, c.max)]))
}
