import type { Db } from '../db/open'
import { packedTable } from './packed-table'
import type { TableLoader } from './load-table'

/**
 * Reads the course that was decided in last before anybody asks for it: whoever comes first after a start would wait for all of its marks.
 * Others are answered meanwhile.
 */
export async function readAhead(db: Db, tables: TableLoader): Promise<void> {
  const course = db
    .prepare<[], string>(
      'SELECT d.course_id FROM decision d JOIN course c ON c.id = d.course_id WHERE c.away_at IS NULL ORDER BY d.made_at DESC LIMIT 1',
    )
    .pluck()
    .get()
  if (course !== undefined) await packedTable(await tables.loadInTurns(course))
}
