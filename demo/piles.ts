import type { Db } from '../server/kernel/db/open'
import { LEAD_ID, markerId, type Size } from './department'
import { random } from './random'

const OPENINGS = [
  'The sheet is drawn for whoever walks here after us.',
  'I chose the ridge because two paths meet on it and neither is on the old map.',
  'The reader I had in mind carries a child and wants the dry way round.',
  'This is the ground below the mill, at 1:2500, as it lay in October.',
]
const BODIES = [
  'The stream is the heaviest line and everything else gives way to it. I left out the hedges that a person can step over and kept the one that stops them.',
  'Heights come from the closed run; the loop misclosed by 11 mm over 640 m, which I spread over the turning points in proportion to the sights.',
  'Between the barn and the ford the bank is undercut, so I drew the edge as it was on the day and dated it.',
  'Letters follow the water. Where names crowded I moved the lesser one outside and led a line to it.',
  'I paced the long side twice and taped it once; the tape decided, and the pacing is in the book.',
  'The relief is in form lines only, since five-metre contours would have met on the face.',
]
const CLOSINGS = [
  'What I would do again is draw the shadow first. What I would not do is ink before the second tie was in.',
  'The datum is the bolt on the bridge, and the tie to it is on page nine.',
  'If the sheet misleads anybody it will be at the stile, which has moved since.',
]

/** A piece of work, paragraph by paragraph. */
export const MAKERS_NOTE = [OPENINGS[2]!, BODIES[0]!, BODIES[1]!, CLOSINGS[1]!]

/**
 * Who reads what: everybody what they have read, and piles that wait. The second course has scripts that nobody has begun,
 * so that there is something on every desk.
 */
export function writePiles(db: Db, size: Size): void {
  const rng = random(size.seed + 5)
  db.prepare(
    `INSERT INTO allotment (assessment_id, student_id, marker_id, place, by_id, at)
     SELECT s.assessment_id, s.student_id, r.marker_id, row_number() OVER (PARTITION BY s.assessment_id, r.marker_id ORDER BY r.rowid), ?, '2026-09-14T09:00:00.000Z'
     FROM reading r JOIN script s ON s.id = r.script_id`,
  ).run(LEAD_ID)
  const unread = db.prepare<[string], { id: string; studentId: string; nth: number }>(
    `SELECT s.id, s.student_id AS studentId, row_number() OVER (ORDER BY s.id) AS nth FROM script s
     WHERE s.assessment_id = ? AND NOT EXISTS (SELECT 1 FROM reading r WHERE r.script_id = s.id)`,
  )
  const allot = db.prepare('INSERT INTO allotment (assessment_id, student_id, marker_id, place, by_id, at) VALUES (?, ?, ?, ?, ?, ?)')
  const give = (assessmentId: string, markers: number[]) => {
    for (const s of unread.all(assessmentId))
      allot.run(
        assessmentId,
        s.studentId,
        markerId(markers[s.nth % markers.length]! % size.markers),
        1000 + s.nth,
        LEAD_ID,
        '2026-11-20T09:00:00.000Z',
      )
  }
  give('cfs118-2026-sketch', [0, 1, 2])
  give('cfs118-2026-talk-1', [0, 1, 2])
  const due = db.prepare('INSERT INTO marking_deadline (assessment_id, marker_id, due) VALUES (?, ?, ?)')
  for (const m of [0, 1, 2]) due.run('cfs118-2026-sketch', markerId(m % size.markers), '2026-12-04')
  const noteOn = db.prepare("UPDATE assessment SET use = json_set(use, '$.noteOn', json(?)) WHERE id = ?")
  noteOn.run('["What was claimed","How it was held to","How questions were met"]', 'cfs214-2026-viva-1')
  noteOn.run('["Said to the listener","Shown on the ground"]', 'cfs118-2026-talk-1')
  const text = db.prepare('UPDATE script SET text = ?, came_at = ? WHERE id = ?')
  const scripts = db.prepare<[], { id: string }>(
    "SELECT id FROM script WHERE assessment_id IN ('cfs214-2026-map', 'cfs118-2026-sketch') AND status IN ('in', 'late') ORDER BY id",
  )
  for (const { id } of scripts.all()) {
    const bodies = [rng.pick(BODIES), rng.pick(BODIES), rng.pick(BODIES)].filter((b, i, all) => all.indexOf(b) === i)
    text.run(["Maker's note. " + rng.pick(OPENINGS), ...bodies, rng.pick(CLOSINGS)].join('\n\n'), '2026-11-16T11:00:00.000Z', id)
  }
  const keep = db.prepare('INSERT INTO kept_comment (id, person_id, words, used, at) VALUES (?, ?, ?, ?, ?)')
  const STOCK = [
    ['Say whom the sheet is for, and let that decide.', 9],
    ['The tie to the datum is missing.', 6],
    ['Quiet and legible throughout.', 4],
    ['Too much is kept for this scale: shed by what the reader needs.', 3],
  ] as const
  STOCK.forEach(([words, used], i) => keep.run(`kept-${i}`, markerId(0), words, used, '2026-11-18T10:00:00.000Z'))
}
