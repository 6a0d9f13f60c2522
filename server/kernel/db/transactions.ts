import type Database from 'better-sqlite3'

type Db = Database.Database

/**
 * One transaction that may write. It takes the write lock before its first read, where SQLite waits for whoever holds it; a lock that is
 * asked for only after a read is refused at once. Inside another transaction it is a savepoint.
 */
export const writing = <T>(db: Db, work: () => T): T => db.transaction(work).immediate()

/** Reads that see the database as it was at one moment. */
export const readingTogether = <T>(db: Db, work: () => T): T => db.transaction(work).deferred()

/** How long a piece of a long write should hold the lock; ms. */
const PIECE_MS = 40
const FEWEST = 50
const MOST = 4000

/**
 * A long write in pieces, on a thread that may wait: after each, the others have the lock for as long as that piece took.
 * @param piece writes at most so many rows; whether there is more
 */
export function writingInPieces(db: Db, piece: (rows: number) => boolean): void {
  const never = new Int32Array(new SharedArrayBuffer(4))
  let rows = 500
  for (let more = true; more;) {
    const begun = performance.now()
    more = writing(db, () => piece(rows))
    const took = Math.max(0.1, performance.now() - begun)
    rows = Math.round(Math.min(MOST, Math.max(FEWEST, (rows * PIECE_MS) / took)))
    Atomics.wait(never, 0, 0, took)
  }
}
