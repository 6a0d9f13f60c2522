import type { Db } from '../server/kernel/db/open'
import type { Size } from './department'
import { random } from './random'

const WHOLES = [
  'A book another could work from. Keep the habit of dating every page.',
  'The observations are all here; the way from them to the heights is harder to follow than it need be.',
  'Careful in the field, hurried at the table. Leave an evening for the reduction.',
  'Clear, complete, and honest about what went wrong on the second day.',
]
const ON_CRITERIA: Record<string, readonly string[]> = {
  entries: ['Weather and hand are missing on two pages.', 'Every sight has its time: good.', 'Say which staff was used.'],
  sketches: ['I found the peg from this sketch alone.', 'A north point on each, please.', 'The witness marks need distances.'],
  reduction: ['The misclosure is found and left; spread it.', 'Closed to 4 mm, and shown.', 'One carried sum is out by ten.'],
}

/** What markers said of the field books, which students see with their mark. */
export function writeRemarks(db: Db, size: Size): void {
  const rng = random(size.seed + 7)
  const books = db.prepare<[], { id: string }>(
    `SELECT r.id FROM reading r JOIN script s ON s.id = r.script_id JOIN assessment a ON a.id = s.assessment_id
     WHERE a.course_id = 'cfs214-2026' AND a.marking = 'scheme' ORDER BY r.id`,
  )
  const say = db.prepare('UPDATE reading SET comment = ?, criterion_comments = ? WHERE id = ?')
  for (const { id } of books.all()) {
    const words = Object.entries(ON_CRITERIA).flatMap(([criterion, said]) => (rng.chance(0.6) ? [[criterion, rng.pick(said)]] : []))
    say.run(rng.pick(WHOLES), JSON.stringify(Object.fromEntries(words)), id)
  }
}
