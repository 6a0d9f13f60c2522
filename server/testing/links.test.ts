import { existsSync, readdirSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'

const root = join(__dirname, '../..')
const pages = ['README.md', ...readdirSync(join(root, 'docs'), { recursive: true, encoding: 'utf8' }).map((p) => join('docs', p))].filter(
  (p) => p.endsWith('.md'),
)
const linked = (page: string) =>
  [...readFileSync(join(root, page), 'utf8').matchAll(/\]\(([^)#\s]+)[^)]*\)/g)].map((m) => m[1]!).filter((to) => !/^[a-z]+:/.test(to))

test.each(pages)('what %s leads to and shows is there', (page) => {
  expect(linked(page).filter((to) => !existsSync(join(root, dirname(page), to)))).toEqual([])
})

test('every picture that is kept is shown somewhere', () => {
  const shown = new Set(pages.flatMap((page) => linked(page).map((to) => join(dirname(page), to))))
  const kept = readdirSync(join(root, 'docs/screenshots')).map((p) => join('docs/screenshots', p))
  expect(kept.filter((p) => !shown.has(p))).toEqual([])
})
