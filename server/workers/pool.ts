import { join } from 'node:path'
import { MessageChannel } from 'node:worker_threads'
import { Piscina } from 'piscina'
import type { MarksFile } from '#core/exchange/marks-file'
import type { RollColumns, RollFile } from '#core/exchange/roll-file'
import type { LibraryFileRead } from '../areas/scales/library-file'
import type { DeliveredFile } from './delivery'
import type { RollTask } from './files'

export interface WorkerSource {
  filename: string
  execArgv?: string[]
}

/** Where the workers are when the server runs from its sources. */
const FROM_SOURCE: WorkerSource = { filename: join(process.cwd(), 'server/workers/files.ts'), execArgv: ['--import', 'tsx'] }

/** Worker threads for what would hold up the server; a file that grows without end takes down its thread alone. */
export function workerPool(source: WorkerSource = FROM_SOURCE) {
  let pool: Piscina | null = null
  const start = () =>
    (pool ??= new Piscina({
      ...source,
      // The one that a thread loads at its start.
      name: 'roll',
      minThreads: 0,
      maxThreads: 2,
      idleTimeout: 30_000,
      resourceLimits: { maxOldGenerationSizeMb: 1500 },
    }))
  return {
    /**
     * Reads a roll file in a worker thread. @returns a sentence where it cannot be read
     * @throws AbortError once the signal is given
     */
    async readRoll(
      bytes: Uint8Array,
      columns: RollColumns | undefined,
      told: (doing: string) => void,
      signal: AbortSignal,
    ): Promise<RollFile | string> {
      const { port1, port2 } = new MessageChannel()
      port1.on('message', told)
      try {
        const task: RollTask = { bytes, columns, port: port2 }
        return (await start().run(task, { name: 'roll', signal, transferList: [port2] })) as RollFile | string
      } finally {
        port1.close()
      }
    },
    /** What a file holds for the library, in a worker thread. @returns a sentence where it cannot be read */
    readLibraryFile: async (bytes: Uint8Array): Promise<LibraryFileRead | string> =>
      (await start().run({ bytes }, { name: 'library' })) as LibraryFileRead | string,
    /** A file of the submission box, in a worker thread. @returns a sentence where it cannot be taken over */
    readDelivery: async (path: string, fileName: string): Promise<DeliveredFile | string> =>
      (await start().run({ path, fileName }, { name: 'delivery' })) as DeliveredFile | string,
    /** The marks in a file, in a worker thread. @returns a sentence where it cannot be read */
    readMarks: async (bytes: Uint8Array): Promise<MarksFile | string> =>
      (await start().run({ bytes }, { name: 'marks' })) as MarksFile | string,
    stop: async () => {
      await pool?.destroy()
      pool = null
    },
  }
}

export type WorkerPool = ReturnType<typeof workerPool>
