import { parse } from 'csv-parse/sync'
import { strFromU8, unzipSync } from 'fflate'
import type { Response } from 'supertest'
import { api, type Client } from './serve'

/** A file that is answered with, as its bytes are in the answer's body; any answer but 200 is a fault. */
export const takenOut = (who: Client, path: string): Promise<Response & { body: Buffer }> =>
  who('get', path.startsWith('/api/') ? path : api(path))
    .buffer(true)
    .parse((res, done) => {
      const parts: Buffer[] = []
      res.on('data', (part: Buffer) => parts.push(part))
      res.on('end', () => done(null, Buffer.concat(parts)))
    })
    .expect(200)

/** The tables in an archive, by the names of its files. */
export function tablesIn(archive: Uint8Array): (file: string) => Record<string, string>[] {
  const files = unzipSync(archive)
  return (file) => parse(strFromU8(files[file]!), { columns: true, bom: true })
}
