import type { Db } from '../server/kernel/db/open'
import { itemId, LEAD_ID, writeDepartment, type Size } from './department'
import { writePiles } from './piles'
import { random } from './random'
import { writeRemarks } from './remarks'
import { writeLastYear, THIS_YEAR, writeSecondCourse, writeThisYear } from './story'
import { writeStudentView } from './student-view'
import { writeOutcomes, writeStandings, writeTuning } from './tuning'
import { writing } from '../server/kernel/db/transactions'

export const DEMO_SIZE: Size = { students: 236, sections: 8, markers: 11, seed: 214 }

/** The whole made-up department, in one transaction: the same seed makes the same department. */
export function buildDemo(db: Db, size: Size = DEMO_SIZE): void {
  writing(db, () => {
    const rng = random(size.seed)
    writeDepartment(db, size)
    writeOutcomes(db)
    writeLastYear(db, { ...size, students: Math.round(size.students * 0.94) }, rng)
    writeThisYear(db, size, rng)
    writeTuning(db, itemId(THIS_YEAR, 'map'), size.markers)
    writeSecondCourse(db, { ...size, students: 84, sections: 3 }, rng)
    writePiles(db, size)
    writeRemarks(db, size)
    writeStandings(db, THIS_YEAR.id, size.seed)
    writeStudentView(db, THIS_YEAR.id)
    // Every state of a mark is kept, the first one too.
    db.prepare(
      `INSERT INTO script_state (script_id, version, status, days_late, entered, by_id, at)
       SELECT id, version, status, days_late, entered, ?, ? FROM script WHERE (entered IS NOT NULL OR status <> 'in')
         AND NOT EXISTS (SELECT 1 FROM script_state h WHERE h.script_id = script.id AND h.version = script.version)`,
    ).run(LEAD_ID, '2026-11-23T08:00:00.000Z')
  })
}
