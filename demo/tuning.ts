import { rubricMark, type Picks } from '#core/scales'
import type { OutcomeBody, RubricBody } from '#contract'
import type { Db } from '../server/kernel/db/open'
import { LEAD_ID, markerId } from './department'
import { random } from './random'
import { MAP_RUBRIC } from './standards'

const LEVELS = [
  { label: 'not yet', words: 'Needs the step done for them' },
  { label: 'with help', words: 'Does it when reminded what comes next' },
  { label: 'alone', words: 'Does it unasked, and checks it' },
  { label: 'for others', words: 'Could show another surveyor how, and why' },
]

const OUTCOMES: { id: string; title: string; body: OutcomeBody }[] = [
  {
    id: 'outcome-generalise',
    title: 'Sheds detail with judgement',
    body: {
      statement: 'Chooses what a sheet at a given scale keeps and what it sheds, for a named reader, and can say why.',
      levels: LEVELS,
      reached: 3,
      rule: { kind: 'recent', alpha: 0.65 },
      group: ['On the sheet'],
    },
  },
  {
    id: 'outcome-account',
    title: 'Accounts for every observation',
    body: {
      statement: 'Records each observation so that another hand could repeat it, and carries the sums to a close.',
      levels: LEVELS,
      reached: 3,
      rule: { kind: 'times', times: 2, of: 3 },
      group: ['In the field'],
    },
  },
  {
    id: 'outcome-draw',
    title: 'Draws for a reader',
    body: {
      statement: 'Gives weight to what the reader looks for, in line, lettering and relief.',
      levels: LEVELS,
      reached: 3,
      rule: { kind: 'mean' },
      group: ['On the sheet'],
    },
  },
]

const LINKS: Record<string, string> = {
  purpose: 'outcome-generalise',
  generalisation: 'outcome-generalise',
  lettering: 'outcome-draw',
  relief: 'outcome-draw',
  sources: 'outcome-account',
}

/** The map rubric with its links to outcomes. */
const LINKED_RUBRIC: RubricBody = {
  ...MAP_RUBRIC,
  criteria: MAP_RUBRIC.criteria.map((c) => (LINKS[c.id] ? { ...c, outcomeIds: [LINKS[c.id]!] } : c)),
  bands: [
    { from: 0, words: 'a drawing of the ground' },
    { from: 50, words: 'a map' },
    { from: 75, words: 'a map for a reader' },
  ],
}

const EXEMPLARS = [
  {
    id: 'exemplar-terrace',
    label: 'The terrace sheet',
    text: `Maker's note. The sheet covers the terrace from the weir to the upper ford at 1:5000. I drew it for the warden who has to find the drain heads after dark, so the paths are the heaviest line and the wall is only where it stops a person.

I shed the fence posts and the single trees. I kept the lone thorn because everybody there steers by it. Below the weir I let four contours run together into one form line with a note, since the bank is too steep for the interval.

Lettering goes with the water. The spot heights come from the second levelling run, tied to the bolt on the bridge; the first run did not close and is not on the sheet.`,
    picks: { purpose: 8, generalisation: 8.5, lettering: 5, relief: 8, sources: 4, 'sheet-rules': 0 },
    note: 'The warden is there in every choice, down to the wall. Generalisation is shed for scale and says so; only the form line keeps it from the top. Lettering is in order but crowds at the ford.',
    shown: 'levels',
  },
  {
    id: 'exemplar-quarry',
    label: 'The quarry sheet',
    text: `Maker's note. This is a map of the quarry. I traced the outline from the air picture and put in everything that could be seen, so that nothing is missing. There are 214 boulders.

The contours are every metre. Near the face they touch, but all of them are there. Names are in capitals because they are important. The legend is on the back as there was no room left in the margin.

The heights are from the class file.`,
    picks: { purpose: 0, generalisation: 1.5, lettering: 2, relief: 5, sources: 2, 'sheet-rules': 2 },
    note: 'Nothing is shed and no reader is meant; “everything that could be seen” is what the first level describes. The relief is right and cannot be read. Two off for a legend outside the margin.',
    shown: 'mark',
  },
] as const

/** How each marker's points lie off the agreed ones, in levels, criterion by criterion; those who lean elsewhere lean here. */
const OFF: Record<number, number[]> = { 1: [1, 0, 1, 1, 0], 4: [-1, -1, 0, -1, 0], 9: [1, -1, -1, 1, 0] }
/** Reads the first exemplar only. */
const BEHIND = 10

/** Exemplars with the readings of nearly all markers, and a suggestion that waits for its owner. */
export function writeTuning(db: Db, assessmentId: string, markers: number): void {
  const outOf = (db.prepare('SELECT out_of FROM assessment WHERE id = ?').get(assessmentId) as { out_of: number }).out_of
  const exemplar = db.prepare(
    `INSERT INTO exemplar (id, assessment_id, label, text, standard_id, picks, mark, note, shown, position)
     VALUES (?, ?, ?, ?, 'rubric-map', ?, ?, ?, ?, ?)`,
  )
  const read = db.prepare('INSERT INTO exemplar_reading (exemplar_id, marker_id, picks, mark, at) VALUES (?, ?, ?, ?, ?)')
  EXEMPLARS.forEach((x, at) => {
    exemplar.run(x.id, assessmentId, x.label, x.text, JSON.stringify(x.picks), rubricMark(MAP_RUBRIC, x.picks, outOf), x.note, x.shown, at)
    for (let m = 0; m < markers; m++) {
      if (m === BEHIND && at > 0) continue
      const picks = picksOff(x.picks, OFF[m] ?? [0, m % 3 === 0 ? 1 : 0, 0, 0, 0], at)
      read.run(x.id, markerId(m), JSON.stringify(picks), rubricMark(MAP_RUBRIC, picks, outOf), `2026-10-0${at + 5}T09:00:00.000Z`)
    }
  })
  db.prepare('UPDATE assessment SET use = ? WHERE id = ?').run(JSON.stringify({ studentsBefore: true }), assessmentId)
  db.prepare('INSERT INTO suggestion (id, standard_id, words, by_id, at) VALUES (?, ?, ?, ?, ?)').run(
    'suggestion-relief',
    'rubric-map',
    'Between “right, hard to read” at 5 and “right, mostly readable” at 8 there is no place for a sheet that is readable but for one corner. A level at 6.5 would spare us half the spread in Relief.',
    markerId(3),
    '2026-11-12T14:20:00.000Z',
  )
}

function picksOff(agreed: Picks, off: number[], nth: number): Picks {
  const scored = MAP_RUBRIC.criteria.filter((c) => !c.penalty)
  const moved = scored.map((c, i): [string, number] => {
    const at = c.levels.findLastIndex((l) => l.points <= agreed[c.id]!)
    const by = nth === 1 && i === 3 ? 0 : (off[i] ?? 0)
    const to = Math.min(c.levels.length - 1, Math.max(0, at + by))
    return [c.id, to === at ? agreed[c.id]! : c.levels[to]!.points]
  })
  return { ...agreed, ...Object.fromEntries(moved) }
}

/** Outcomes, and the criteria of the map rubric that give evidence of them; before the first reading, which freezes it. */
export function writeOutcomes(db: Db): void {
  const standard = db.prepare("INSERT INTO standard (id, kind, title, owner_id, body) VALUES (?, 'outcome', ?, ?, ?)")
  for (const o of OUTCOMES) standard.run(o.id, o.title, LEAD_ID, JSON.stringify(o.body))
  db.prepare("UPDATE standard SET body = ? WHERE id = 'rubric-map'").run(JSON.stringify(LINKED_RUBRIC))
}

/** Words of those who saw something in the field. */
const SEEN = [
  'Set the level up unasked and closed on the bolt',
  'Booked for the party all morning, nothing to ask about afterwards',
  'Could say at the weir why the fence is not on the sheet',
  'Had to be told what comes after the back sight',
]

/** What the course adds: an overall judgement that counts, results noted in the field, and who may see what. */
export function writeStandings(db: Db, courseId: string, seed: number): void {
  // Of its own: what was drawn before stays what it was.
  const rng = random(seed)
  const viva = `${courseId}-viva-1`
  db.prepare("INSERT INTO outcome_judgement (assessment_id, outcome_id) VALUES (?, 'outcome-account')").run(viva)
  const show = db.prepare("INSERT INTO outcome_shown (course_id, outcome_id, by_id, at) VALUES (?, ?, ?, '2026-10-02T09:00:00.000Z')")
  for (const outcome of ['outcome-generalise', 'outcome-account']) show.run(courseId, outcome, LEAD_ID)
  const students = db.prepare<[string], string>('SELECT id FROM student WHERE course_id = ? ORDER BY id').pluck().all(courseId)
  const note = db.prepare(
    "INSERT INTO typed_evidence (id, course_id, outcome_id, student_id, level, day, note, by_id, at) VALUES (?, ?, 'outcome-account', ?, ?, ?, ?, ?, ?)",
  )
  const own = db.prepare<[string], string>('SELECT id FROM student WHERE course_id = ? AND person_id IS NOT NULL').pluck().get(courseId)
  students.forEach((id, i) => {
    if (id === own)
      for (const [n, level] of [2, 3, 3].entries()) {
        const day = `2026-10-1${n * 4}`
        note.run(`noted-own-${n}`, courseId, id, level, day, SEEN[3 - n], LEAD_ID, `${day}T16:00:00.000Z`)
      }
    if (id === own || !rng.chance(0.3)) return
    const day = `2026-10-${String(5 + (i % 20)).padStart(2, '0')}`
    const at = rng.below(SEEN.length)
    note.run(`noted-${i}`, courseId, id, [3, 4, 3, 2][at], day, SEEN[at], LEAD_ID, `${day}T16:00:00.000Z`)
  })
  // Last year it was noted in the field for most, so that this year has something to be held against.
  const last = db.prepare<[], string>("SELECT id FROM student WHERE course_id = 'cfs214-2025' ORDER BY id").pluck().all()
  for (const [i, id] of last.entries())
    for (const month of rng.chance(0.8) ? ['09', '10', '11'] : ['10']) {
      const day = `2025-${month}-${String(8 + (i % 20)).padStart(2, '0')}`
      const at = rng.below(SEEN.length)
      note.run(`noted-last-${i}-${month}`, 'cfs214-2025', id, [3, 3, 3, 2][at], day, SEEN[at], LEAD_ID, `${day}T16:00:00.000Z`)
    }
  db.prepare(
    "INSERT INTO kept_group (id, course_id, name, by_id, at) VALUES ('group-field-day', ?, 'Next field day, with Ines', ?, '2026-11-20T12:00:00.000Z')",
  ).run(courseId, LEAD_ID)
  const member = db.prepare("INSERT INTO kept_group_student (group_id, student_id) VALUES ('group-field-day', ?)")
  for (const id of students.filter((_, i) => i % 17 === 3)) member.run(id)
}
