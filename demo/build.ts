import type { Db } from '../server/db/open'
import { itemId, writeDepartment, type Size } from './department'
import { writePiles } from './piles'
import { random } from './random'
import { writeLastYear, THIS_YEAR, writeSecondCourse, writeThisYear } from './story'
import { writeOutcomes, writeTuning } from './tuning'

export const DEMO_SIZE: Size = { students: 236, sections: 8, markers: 11, seed: 214 }

/** The whole made-up department, in one transaction: the same seed makes the same department. */
export function buildDemo(db: Db, size: Size = DEMO_SIZE): void {
  db.transaction(() => {
    const rng = random(size.seed)
    writeDepartment(db, size)
    writeOutcomes(db)
    writeLastYear(db, { ...size, students: Math.round(size.students * 0.94) }, rng)
    writeThisYear(db, size, rng)
    writeTuning(db, itemId(THIS_YEAR, 'map'), size.markers)
    writeSecondCourse(db, { ...size, students: 84, sections: 3 }, rng)
    writePiles(db, size)
  })()
}
