import type { Logger } from 'pino'
import type { Keeping } from '#contract'
import type { WorkerPool } from '../../workers/pool'
import { lookAgain } from '../../kernel/look-again'
import type { KeepingSettings } from '../../kernel/settings'
import { BackUpError, keepLatest, listBackUps, removePartial, type BackUp } from './back-up'

const HOUR_MS = 3_600_000

/** Backups on a schedule and when asked for, one at a time, off the main thread. */
export function keeper(file: string, settings: KeepingSettings, pool: WorkerPool, log?: Logger) {
  let running: Promise<BackUp> | null = null
  let problem: string | null = null
  let stopping = false
  async function make(): Promise<BackUp> {
    const done = await pool.backUp(file, settings.folder)
    if (typeof done === 'string') throw new BackUpError(done)
    await keepLatest(settings.folder, settings.keep)
    return done
  }
  const backUpNow = (): Promise<BackUp> => {
    const began = new Date()
    return (running ??= make()
      .then(
        (done) => {
          problem = null
          log?.info({ backUp: done.name, bytes: done.bytes }, 'backed up')
          return done
        },
        async (e: unknown) => {
          if (stopping) {
            await removePartial(settings.folder, began)
            log?.info('the backup was given up, as the server stops')
            throw e
          }
          problem = e instanceof Error ? e.message : String(e)
          log?.error({ err: e }, 'the backup failed')
          throw e
        },
      )
      .finally(() => (running = null)))
  }
  const isOld = (all: readonly BackUp[], hours: number) => {
    // One from a day that is still to come was made before the clock was set back: it says nothing about today.
    const latest = all.find((b) => Date.parse(b.at) <= Date.now())
    return !latest || Date.now() - Date.parse(latest.at) > hours * HOUR_MS
  }
  const lookNow = async () => {
    if (isOld(await listBackUps(settings.folder), settings.hours)) await backUpNow().catch(() => undefined)
  }
  return {
    backUpNow,
    /** Gives up one that is being made, and leaves nothing of it. @param endWorkers ends the threads that it is made in */
    async stop(endWorkers: () => Promise<void>): Promise<void> {
      stopping = true
      const given = running
      await endWorkers()
      await given?.catch(() => undefined)
    },
    /** Makes one whenever the latest is older than it should be. @returns what ends that */
    start(): () => void {
      return settings.hours === 0 ? () => undefined : lookAgain(lookNow)
    },
    async state(): Promise<Keeping> {
      const all = await listBackUps(settings.folder)
      return {
        folder: settings.folder,
        hours: settings.hours,
        keep: settings.keep,
        // A schedule that was missed twice is a warning.
        old: settings.hours > 0 && isOld(all, 2 * settings.hours),
        problem,
        backups: all.map(({ name, at, bytes, version, rows }) => ({
          name,
          at,
          bytes,
          version,
          rows: Object.values(rows).reduce((n, x) => n + x, 0),
        })),
      }
    },
  }
}

export type Keeper = ReturnType<typeof keeper>
