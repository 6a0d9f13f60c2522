import { resolve } from 'node:path'
import { BackUpError } from '../areas/keeping/back-up'
import { DataHeldError } from '../areas/keeping/hold-data'
import { restore } from '../areas/keeping/restore'
import { settingsOrEnd } from './settings-or-end'

// npm run restore -- FOLDER: puts a backup in place of the data, and what was there aside.
process.umask(0o077)

const from = process.argv[2]
if (!from) {
  console.error('Say which backup: npm run restore -- data/backups/level-table-…')
  process.exit(1)
}
const { data } = settingsOrEnd()
try {
  const { manifest, aside } = await restore(resolve(from), data)
  console.log(`Restored as it was at ${manifest.at}.${aside ? ` What was there lies in ${aside}.` : ''}`)
} catch (e) {
  if (!(e instanceof BackUpError) && !(e instanceof DataHeldError)) throw e
  console.error(`Nothing was restored: ${e.message}`)
  process.exit(1)
}
