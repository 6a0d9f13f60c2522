/**
 * Requests wait here while the database's file is written anew. Inside SQLite they would wait too, but each holding the server's one
 * thread, and be refused after five seconds.
 */
export function fileGate() {
  let opens: Promise<void> | null = null
  return {
    /** Goes on at once where the gate is open. */
    pass: (on: () => void): void => {
      if (opens === null) on()
      else void opens.then(on)
    },
    whileShut: async <T>(work: () => Promise<T>): Promise<T> => {
      let open = () => undefined as void
      opens = new Promise((done) => (open = done))
      try {
        return await work()
      } finally {
        opens = null
        open()
      }
    },
  }
}

export type FileGate = ReturnType<typeof fileGate>
