import { join, resolve } from 'node:path'
import { backUp, BackUpError, DATABASE } from '../areas/keeping/back-up'
import { settingsOrEnd } from './settings-or-end'

// npm run backup -- [FOLDER]: a checked backup, also while the server runs.
process.umask(0o077)

const { data, keeping } = settingsOrEnd()
const into = resolve(process.argv[2] ?? keeping.folder)
try {
  const { name, bytes, rows, hash } = await backUp({ file: join(data, DATABASE), into })
  const count = Object.values(rows).reduce((n, x) => n + x, 0)
  console.log(`${join(into, name)}\n${bytes} bytes, ${count} rows in ${Object.keys(rows).length} tables, checked; SHA-256 ${hash}`)
} catch (e) {
  if (!(e instanceof BackUpError) && (e as { code?: string }).code === undefined) throw e
  console.error(`No backup was made: ${(e as Error).message}`)
  process.exit(1)
}
