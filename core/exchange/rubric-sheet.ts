import type { Criterion, RubricLevel } from '../scales/rubric'

/** A level with the comment kept ready for it. */
type SheetLevel = RubricLevel & { comment?: string | undefined }
export interface SheetRubric {
  criteria: (Omit<Criterion, 'levels'> & { levels: SheetLevel[]; outcomeIds?: string[] | undefined })[]
  bands?: { from: number; words: string }[] | undefined
  descending?: boolean | undefined
  alike?: boolean | undefined
}

const OF_LEVEL = ['points', 'to', 'name', 'words', 'comment'] as const
const BEFORE = ['kind', 'title', 'description']
const ALIKE = 'criteria all alike'
const BEST_FIRST = 'shown from the best level down'
const NO_OUTCOMES = 'Links to outcomes are not in this file: the CASE file has them.'

/**
 * A rubric as a table of text that reads back as the same: a heading, a row a criterion with five columns a level, then a row for
 * each band and each thing said of the whole. What it cannot hold it says in a row of its own.
 */
export function rubricSheet({ criteria, bands = [], descending, alike }: SheetRubric): string[][] {
  const most = Math.max(1, ...criteria.map((c) => c.levels.length))
  const levels = Array.from({ length: most }, (_, i) => i)
  const row = (...cells: string[]) => [...cells, ...Array.from({ length: BEFORE.length + most * OF_LEVEL.length - cells.length }, () => '')]
  return [
    [...BEFORE, ...levels.flatMap((i) => OF_LEVEL.map((part) => `${part} ${i + 1}`))],
    ...criteria.map((c) =>
      row(
        c.penalty ? 'penalty' : 'criterion',
        c.title,
        c.description ?? '',
        ...c.levels.flatMap((l) => [String(l.points), c.ranges ? String(l.to ?? l.points) : '', l.name ?? '', l.words, l.comment ?? '']),
      ),
    ),
    ...bands.map((b) => row('band', String(b.from), b.words)),
    ...(descending ? [row('whole', BEST_FIRST)] : []),
    ...(alike ? [row('whole', ALIKE)] : []),
    ...(criteria.some((c) => c.outcomeIds?.length) ? [row('note', NO_OUTCOMES)] : []),
  ]
}

const filled = <K extends string>(key: K, value: string): { [k in K]?: string } =>
  value === '' ? {} : ({ [key]: value } as { [k in K]: string })

/**
 * Reads a table that `rubricSheet` wrote, whatever columns were added between or left away.
 * @param id makes an id for each criterion
 * @returns null where it is another table
 */
export function readRubricSheet(
  table: readonly (readonly string[])[],
  id: (nth: number) => string,
): { rubric: SheetRubric; notes: string[] } | null {
  const head = (table[0] ?? []).map((h) => h.trim().toLowerCase())
  if (!['kind', 'title', 'points 1'].every((h) => head.includes(h))) return null
  const rubric: SheetRubric = { criteria: [] }
  const notes: string[] = []
  for (const row of table.slice(1)) {
    const cell = (name: string) => (row[head.indexOf(name)] ?? '').trim()
    const [kind, title] = [cell('kind').toLowerCase(), cell('title')]
    if (kind === 'band') rubric.bands = [...(rubric.bands ?? []), { from: number(title) ?? 0, words: cell('description') }]
    else if (kind === 'whole' && title === BEST_FIRST) rubric.descending = true
    else if (kind === 'whole' && title === ALIKE) rubric.alike = true
    else if (kind === 'note') notes.push(title)
    else if (kind === 'criterion' || kind === 'penalty') {
      const levels: SheetLevel[] = []
      let ranges = false
      for (let i = 1; head.includes(`points ${i}`); i++) {
        const points = number(cell(`points ${i}`))
        if (points === null) continue
        const to = number(cell(`to ${i}`))
        ranges ||= to !== null
        levels.push({
          points,
          ...(to !== null && to > points ? { to } : {}),
          ...filled('name', cell(`name ${i}`)),
          words: cell(`words ${i}`),
          ...filled('comment', cell(`comment ${i}`)),
        })
      }
      rubric.criteria.push({
        id: id(rubric.criteria.length),
        title: title || `Criterion ${rubric.criteria.length + 1}`,
        ...filled('description', cell('description')),
        ranges,
        penalty: kind === 'penalty',
        levels: levels.sort((a, b) => a.points - b.points),
      })
    }
  }
  return { rubric, notes }
}

const number = (text: string): number | null => (/^\d+([.,]\d+)?$/.test(text) ? Number(text.replace(',', '.')) : null)
