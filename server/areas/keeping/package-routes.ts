import { randomUUID } from 'node:crypto'
import { createWriteStream, mkdirSync, rmSync } from 'node:fs'
import { rm, stat } from 'node:fs/promises'
import { dirname, join } from 'node:path'
import { Transform } from 'node:stream'
import type { Request, Response } from 'express'
import { pipeline } from 'node:stream/promises'
import { MEDIA_TYPES } from '#core/exchange/media-types'
import { MOST_PACKAGE_BYTES, routes } from '#contract'
import type { AuditList } from '../../kernel/access/audit'
import type { Db } from '../../kernel/db/open'
import type { Handle } from '../../kernel/http'
import { HttpProblem, tooLarge } from '../../kernel/problem'
import { orProblem } from '../../kernel/or-problem'
import type { WorkerPool } from '../../workers/pool'
import { unpackedAt } from './package/bring-in'

const KEPT_FOR_MS = 60 * 60_000

/** A whole course, out as a data package and in again elsewhere. */
export function packageRoutes(handle: Handle, db: Db, pool: WorkerPool, audit: AuditList): void {
  const file = db.name
  const folder = join(dirname(file), 'packages')
  // What was left of a try before the server was started is nobody's any more.
  rmSync(folder, { recursive: true, force: true })
  const fileOf = (id: string) => join(folder, `${id}.zip`)
  const newFile = () => {
    mkdirSync(folder, { recursive: true, mode: 0o700 })
    return randomUUID()
  }
  const drop = async (id: string) => {
    await rm(fileOf(id), { force: true })
    // What was given up while it was unpacked leaves that behind.
    await rm(unpackedAt(fileOf(id)), { recursive: true, force: true, maxRetries: 3 })
  }
  const title = db.prepare<[string], { code: string; term: string }>('SELECT code, term FROM course WHERE id = ?')

  handle(routes.takeOutCourse, ({ params: { courseId }, caller, req, res }) => give(courseId, caller!.id, caller!.id, req, res))

  handle(routes.takeOutWholeCourse, async ({ params: { courseId }, me, req, res }) => {
    if (!title.get(courseId)) throw new HttpProblem(404, 'There is no such course here.')
    audit.note({ kind: 'course changed', by: me.id, courseId, words: 'exported whole, to be moved to another installation' })
    return give(courseId, null, me.id, req, res)
  })

  /** @param shownTo the lead whose copy it is; null for all of it */
  async function give(courseId: string, shownTo: string | null, by: string, req: Request, res: Response): Promise<undefined> {
    const id = newFile()
    const gone = new AbortController()
    res.on('close', () => gone.abort())
    try {
      orProblem(await pool.takeOutCourse({ file, courseId, into: fileOf(id), personId: shownTo }, { personId: by, signal: gone.signal }))
      const { code, term } = title.get(courseId)!
      await new Promise<void>((sent, failed) =>
        res
          .attachment(`${code}, ${term}.zip`)
          .type(MEDIA_TYPES.zip)
          .sendFile(fileOf(id), (e?: Error) => (e && !req.destroyed ? failed(e) : sent())),
      )
    } finally {
      await drop(id)
    }
    return undefined
  }

  handle(routes.tryPackage, async ({ req, me }) => {
    if (!/^application\/zip\b/i.test(req.get('content-type') ?? ''))
      throw new HttpProblem(415, 'Send the package as it is (application/zip).')
    if (Number(req.get('content-length') ?? 0) > MOST_PACKAGE_BYTES) throw tooLarge(MOST_PACKAGE_BYTES)
    const packageId = newFile()
    let bytes = 0
    const counted = new Transform({
      transform(chunk: Buffer, _, next) {
        bytes += chunk.length
        next(bytes > MOST_PACKAGE_BYTES ? tooLarge(MOST_PACKAGE_BYTES) : null, chunk)
      },
    })
    try {
      await pipeline(req, counted, createWriteStream(fileOf(packageId), { mode: 0o600, flags: 'wx' }))
      const tried = orProblem(await pool.tryPackage({ file, packed: fileOf(packageId), bytes }, { personId: me.id }), 422)
      setTimeout(() => void drop(packageId), KEPT_FOR_MS).unref()
      return { ...tried, packageId }
    } catch (e) {
      await drop(packageId)
      throw e
    }
  })

  handle(routes.bringInPackage, async ({ params: { packageId }, me }) => {
    const packed = fileOf(packageId)
    const { size } = await stat(packed).catch(() => {
      throw new HttpProblem(404, 'That package is not here any more: bring the file again.')
    })
    const done = orProblem(await pool.bringInPackage({ file, packed, bytes: size }, { personId: me.id }), 422)
    await drop(packageId)
    audit.note({ kind: 'course changed', by: me.id, courseId: done.courseId, words: 'brought in from a data package' })
    return done
  })

  handle(routes.dropPackage, async ({ params: { packageId } }) => {
    await drop(packageId)
    return undefined
  })
}
