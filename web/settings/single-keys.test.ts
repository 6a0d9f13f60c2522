import { readdirSync, readFileSync, statSync } from 'node:fs'
import { join } from 'node:path'
import { SINGLE_KEYS } from './single-keys'

const filesIn = (folder: string): string[] =>
  readdirSync(folder).flatMap((name) => {
    const path = join(folder, name)
    return statSync(path).isDirectory() ? filesIn(path) : /(?<!\.test)\.tsx?$/.test(name) ? [path] : []
  })

test('every single key that a screen announces is known, so that nobody can give two of one screen the same letter', () => {
  const announced = filesIn('web').flatMap((file) => [...readFileSync(file, 'utf8').matchAll(/\bkey: '(.)'/g)].map((m) => m[1]!))
  expect(announced.length).toBeGreaterThan(40)
  // Readings of a script and ways of rescaling are numbered.
  expect([...new Set([...announced, ...'0123456789'])].sort()).toEqual([...SINGLE_KEYS].sort())
})
