import type { Db } from './open'

/**
 * One transaction that may write. It takes the write lock before its first read, where SQLite waits for whoever holds it; a lock that is
 * asked for only after a read is refused at once. Inside another transaction it is a savepoint.
 */
export const writing = <T>(db: Db, work: () => T): T => db.transaction(work).immediate()

/** Reads that see the database as it was at one moment. */
export const readingTogether = <T>(db: Db, work: () => T): T => db.transaction(work).deferred()
