import Database from 'better-sqlite3'
import fc from 'fast-check'
import { columnsOf } from './columns'

interface Row {
  words: string
  number: number | null
}

test('columns hold every number to its last digit and every sign, in the order that is asked for', () =>
  fc.assert(
    fc.property(
      fc.array(
        fc.record({ words: fc.string({ unit: 'grapheme' }), number: fc.option(fc.double({ noNaN: true, noDefaultInfinity: true })) }),
        { maxLength: 20 },
      ),
      (rows) => {
        const db = new Database(':memory:')
        db.exec('CREATE TABLE t (course TEXT, place INTEGER, words TEXT, number REAL) STRICT')
        const insert = db.prepare('INSERT INTO t VALUES (?, ?, ?, ?)')
        rows.forEach((r, i) => insert.run('c', -i, r.words, r.number))
        insert.run('other', 0, 'x', 1)
        const read = columnsOf<Row>(db, { words: 'words', number: 'number' }, 'FROM t WHERE course = ? ORDER BY place DESC')('c')
        // SQLite keeps no sign of nothing.
        expect(read).toEqual({ words: rows.map((r) => r.words), number: rows.map((r) => (r.number === 0 ? 0 : r.number)) })
        db.close()
      },
    ),
    { numRuns: 200 },
  ))
