import { existsSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { openDatabase } from '../server/kernel/db/open'
import { writeBox } from './box'
import { buildDemo, DEMO_SIZE } from './build'
import { PASSPHRASE } from './department'
import { writeIncoming, writeRegister } from './files'
import { LEAD } from './names'

const { values } = parseArgs({
  options: {
    fresh: { type: 'boolean', default: false },
    data: { type: 'string', default: process.env.LEVEL_TABLE_DATA ?? './data' },
    students: { type: 'string', default: String(DEMO_SIZE.students) },
    sections: { type: 'string', default: String(DEMO_SIZE.sections) },
    markers: { type: 'string', default: String(DEMO_SIZE.markers) },
    assessments: { type: 'string', default: '0' },
    seed: { type: 'string', default: String(DEMO_SIZE.seed) },
  },
})

const count = (name: 'students' | 'sections' | 'markers' | 'assessments' | 'seed', least: number): number => {
  const n = Number(values[name])
  if (!Number.isInteger(n) || n < least) {
    console.error(`--${name} must be a whole number of at least ${least}.`)
    process.exit(2)
  }
  return n
}

const file = join(values.data, 'level-table.db')
if (values.fresh) for (const ending of ['', '-wal', '-shm']) rmSync(file + ending, { force: true })
if (existsSync(file)) console.log(`Demo data stands in ${file} already (--fresh starts it over).`)
else {
  const size = {
    students: count('students', 60),
    sections: count('sections', 8),
    markers: count('markers', 11),
    assessments: count('assessments', 0),
    seed: count('seed', 0),
  }
  const db = openDatabase(file)
  try {
    buildDemo(db, size)
  } catch (e) {
    db.close()
    rmSync(file, { force: true })
    throw e
  }
  await writeBox(db, join(values.data, 'submission-box'))
  writeRegister(db, join(values.data, 'records-office'))
  const incoming = writeIncoming(db, join(values.data, 'incoming'))
  db.close()
  console.log(`Made the demo department: ${size.students} students, ${size.sections} sections, ${size.markers} markers.`)
  console.log(`A file of marks to bring in at Mark: ${incoming}`)
}
console.log(`Sign in as ${LEAD}, the lead (the page offers everyone), passphrase: ${PASSPHRASE}`)
