import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { strToU8, zipSync } from 'fflate'
import { workerPool } from './pool'

const bytes = (text: string) => new TextEncoder().encode(text)
const GOOD = bytes('candidate,Paper\n3901,12\n')

test('a file that takes too long is given up with a sentence, and a good one beside it is read', async () => {
  const pool = workerPool(undefined, 1)
  try {
    const slow = pool.readMarks({ bytes: bytes(`candidate,Paper\n${'1,2\n'.repeat(40_000)}`) }, { personId: 'one' })
    expect(await slow).toMatch(/takes too long or too much room/)
  } finally {
    await pool.stop()
  }
  const calm = workerPool()
  try {
    const damaged = zipSync({ 'xl/workbook.xml': strToU8('<'), 'xl/worksheets/sheet1.xml': strToU8('<c r="XFD1"/>') })
    const [bad, good] = await Promise.all([
      calm.readMarks({ bytes: damaged }, { personId: 'one' }),
      calm.readMarks({ bytes: GOOD }, { personId: 'two' }),
    ])
    expect(bad).toMatch(/lies beyond the 500 columns/)
    expect(good).toMatchObject({ marks: [{ candidate: '3901', text: '12' }] })
  } finally {
    await calm.stop()
  }
}, 60_000)

test('one person has one file read at a time, and one more may wait: the one before is perhaps only being given up', async () => {
  const pool = workerPool()
  try {
    const given = new AbortController()
    const first = pool.readMarks({ bytes: GOOD }, { personId: 'one', signal: given.signal })
    const gone = expect(first).rejects.toThrow()
    const second = pool.readMarks({ text: 'candidate,Paper\n1,2' }, { personId: 'one' })
    await expect(pool.readMarks({ bytes: GOOD }, { personId: 'one' })).rejects.toMatchObject({ status: 429 })
    given.abort()
    await gone
    expect(await second).toMatchObject({ faults: [] })
    expect(await pool.readMarks({ bytes: GOOD }, { personId: 'one' })).toMatchObject({ faults: [] })
  } finally {
    await pool.stop()
  }
}, 60_000)

test('a thread imports its code and does not require it: ended while it is linked, a required module would take the whole server along', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'level-table-thread-'))
  const filename = join(folder, 'thread.mjs')
  await writeFile(filename, 'const how = new Error().stack\nexport const roll = () => how\nexport const library = () => how\n')
  const pool = workerPool({ filename })
  try {
    expect(await pool.readLibraryFile(bytes(''), { personId: 'one' })).not.toMatch(/loadESMFromCJS|importSyncForRequire/)
  } finally {
    await pool.stop()
    await rm(folder, { recursive: true })
  }
})
