import type { Criterion, RubricLevel } from '../scales/rubric'

/** How a table is to be read as a rubric. */
export interface RubricLayout {
  /** Column of the criteria's titles. */
  titleColumn: number
  /** Columns of the levels, as they stand. */
  levelColumns: number[]
  /** Row of the heading, from 0; null where there is none. */
  heading: number | null
  /** Rows that are no criteria, the heading's aside. */
  leftOut: number[]
  /** Row that has nothing but the points of the levels; undefined where there is none. */
  pointsRow?: number | undefined
  /** Column of what a criterion is worth at most; its levels are spread evenly where they have no points of their own. */
  maximumColumn?: number | undefined
  /** Where the points are: in the heading (or the row of points), in each cell, or nowhere (then 0, 1, 2 … from the lowest). */
  points: 'heading' | 'cells' | 'none'
  /** The best level stands first; null where neither points nor the names of the levels tell, and somebody has to say. */
  descending: boolean | null
}

const NUMBER = String.raw`\d+(?:[.,]\d{1,3})?`
const RANGE = String.raw`([-−]?${NUMBER})(?:\s*(?:-|–|—|to)\s*(${NUMBER}))?`
const UNIT = String.raw`(?:\s*(?:points?|pts?|marks?|p))?`
/** "4", "4 points: words", "0–3.5 words", "(3) words", "words (3 points)", "words 3 points", "words: 3", "words – 3". */
const LEADING = new RegExp(String.raw`^[([]?\s*${RANGE}${UNIT}\s*[)\]]?\s*(?:[:.–—-]\s+|[:.]?\s*\n|\s+|$)`, 'i')
const TRAILING = new RegExp(
  String.raw`\s*(?:[([]\s*${RANGE}${UNIT}\s*[)\]]|[–—-]\s+${RANGE}${UNIT}|[:=]\s*${RANGE}${UNIT}|(?<=\s)${RANGE}\s*(?:points?|pts?\.?|marks?|p))\s*$`,
  'i',
)

const value = (text: string) => Number(text.replace(',', '.').replace('−', '-'))

/** Points at the start or the end of a text, and the words that are left. */
export function pointsIn(text: string): { points: number; to: number | undefined; words: string } | null {
  const lead = LEADING.exec(text)
  if (lead) return found(lead[1]!, lead[2], text.slice(lead[0].length))
  const trail = TRAILING.exec(text)
  if (!trail) return null
  const at = [1, 3, 5, 7].find((i) => trail[i] !== undefined)!
  return found(trail[at]!, trail[at + 1], text.slice(0, trail.index))
}

function found(first: string, second: string | undefined, words: string) {
  const [a, b] = [value(first), second === undefined ? undefined : value(second)]
  const [points, to] = b !== undefined && b < a ? [b, a] : [a, b]
  return { points, to: to === points ? undefined : to, words: words.trim() }
}

const DEEPEST_HEADING = 3
/** Title of a row that sums the others up, and of a row or column of points. */
const TOTAL = /^(?:grand |sub)?(?:total|sum|summe|gesamt)\b[^\p{L}]*(?:points?|marks?|score)?\W*$/iu
const POINTS = /^(?:(?:max(?:imum)?|available|out of)\W*)?(?:points?|pts?\.?|marks?|scores?|worth|weight|punkte)?\W*$/i
const isPoints = (text: string): boolean => pointsIn(text)?.words === ''

type Table = readonly (readonly string[])[]

/** Whether a table has its levels in rows, and its criteria in columns. */
export function levelsGoDown(table: Table): boolean {
  const looksLikeLevel = (text: string) => rankOf(text) >= 0 || (text !== '' && isPoints(text)) || rankOf(pointsIn(text)?.words ?? '') >= 0
  const share = (cells: readonly string[]) => (cells.length === 0 ? 0 : cells.filter(looksLikeLevel).length / cells.length)
  const down = table.slice(1).map((r) => r[0] ?? '')
  return down.length > 1 && share(down) >= 0.6 && share((table[0] ?? []).slice(1).filter((c) => c !== '')) < 0.3
}

/** A table with its rows as columns. */
export const turned = (table: Table): string[][] =>
  Array.from({ length: Math.max(0, ...table.map((r) => r.length)) }, (_, c) => table.map((r) => r[c] ?? ''))

/** The likeliest way to read a table as a rubric. */
export function guessLayout(table: readonly (readonly string[])[]): RubricLayout {
  const width = Math.max(0, ...table.map((r) => r.length))
  const columns = Array.from({ length: Math.max(0, width - 1) }, (_, i) => i + 1).filter((c) => table.some((r) => (r[c] ?? '') !== ''))
  const maximumColumn = columns.find((c) => {
    const [head = '', ...cells] = table.map((r) => r[c] ?? '')
    return head !== '' && POINTS.test(head) && cells.every((x) => x === '' || isPoints(x)) && columns.length > 2
  })
  const levelColumns = columns.filter((c) => c !== maximumColumn)
  const pointsRow = table.findIndex((r, i) => i > 0 && POINTS.test(r[0] ?? '') && levelColumns.every((c) => isPoints(r[c] ?? '')))
  const totals = table.flatMap((r, i) => (i > 0 && TOTAL.test(r[0] ?? '') ? [i] : []))
  const share = (rows: readonly (readonly string[])[]) => {
    const cells = rows.flatMap((r) => levelColumns.map((c) => r[c] ?? '')).filter((c) => c !== '')
    return cells.length === 0 ? 0 : cells.filter((c) => pointsIn(c)).length / cells.length
  }
  // A caption may stand above the heading, and a heading may have its points in a row of their own.
  const headed = table
    .slice(0, DEEPEST_HEADING)
    .findIndex((r, i) => levelColumns.length > 0 && levelColumns.every((c) => pointsIn(r[c] ?? '')) && share(table.slice(i + 1)) < 0.5)
  const apart = pointsRow > 0 && levelColumns.length > 0
  const inHeading = apart || (headed >= 0 && headed < table.length - 1)
  const first = table[0] ?? []
  const heading = apart ? 0 : inHeading ? headed : (first[0] ?? '') === '' || share([first]) < 0.5 ? 0 : null
  const inCells = !inHeading && share(table.slice(1)) >= 0.7
  const points = inHeading ? 'heading' : inCells ? 'cells' : 'none'
  const sample = (points === 'heading' ? table[apart ? pointsRow : headed]! : (table[heading === null ? 0 : 1] ?? [])).map(pointsIn)
  const [left, right] = [sample[levelColumns[0] ?? 1]?.points, sample[levelColumns.at(-1) ?? 1]?.points]
  const names = heading === null ? [] : levelColumns.map((c) => (table[heading]![c] ?? '').trim())
  return {
    titleColumn: 0,
    levelColumns,
    heading,
    leftOut: [...Array.from({ length: heading ?? 0 }, (_, i) => i), ...totals.filter((i) => i > (heading ?? 0))],
    ...(apart ? { pointsRow } : {}),
    ...(maximumColumn === undefined ? {} : { maximumColumn }),
    points,
    descending: left !== undefined && right !== undefined ? left > right : namedBestFirst(names),
  }
}

/** Names of levels as they are usually met, in ranks from the lowest. */
const RANKS = [
  ['none', 'missing', 'absent', 'fail', 'failing', 'failed', 'refer', 'unacceptable', 'very poor', 'not done', 'no evidence', 'f', 'e'],
  [
    'poor',
    'weak',
    'insufficient',
    'unsatisfactory',
    'inadequate',
    'beginning',
    'beginner',
    'novice',
    'low',
    'below',
    'not yet',
    'd',
    'emerging',
    'limited',
  ],
  [
    'fair',
    'pass',
    'adequate',
    'sufficient',
    'satisfactory',
    'acceptable',
    'developing',
    'partial',
    'partly',
    'average',
    'basic',
    'c',
    'credit',
    'sound',
  ],
  ['good', 'merit', 'competent', 'proficient', 'accomplished', 'secure', 'at', 'met', 'reached', 'b', 'strong', 'solid'],
  [
    'very good',
    'excellent',
    'outstanding',
    'distinction',
    'exemplary',
    'advanced',
    'superior',
    'above',
    'beyond',
    'high',
    'a',
    'mastery',
    'expert',
    'exceptional',
  ],
]
const rankOf = (name: string): number => {
  const plain = name
    .toLowerCase()
    .replace(/[^\p{L}\s]/gu, '')
    .trim()
  return RANKS.findIndex((names) => names.includes(plain))
}

/** Whether levels are named from the best down; null where their names do not tell. */
export function namedBestFirst(names: readonly string[]): boolean | null {
  const known = names.map(rankOf).filter((r) => r >= 0)
  const [first, last] = [known[0], known.at(-1)]
  return first === undefined || last === undefined || first === last ? null : first > last
}

/** A heading that only counts its levels is no name: “level 1”, “b”. */
const COUNTED = /^(?:level\s*)?[\da-z]{0,2}$/i
const nameIn = (heading: string): { name?: string } => {
  const name = heading.replace(/\s+/g, ' ').trim().slice(0, 120)
  return COUNTED.test(name) ? {} : { name }
}

/**
 * A table read as a rubric's criteria, levels from the lowest up. A title that ends in “(penalty)” is one.
 * @param id makes an id for each criterion
 */
export function rubricFromTable(table: readonly (readonly string[])[], layout: RubricLayout, id: (nth: number) => string): Criterion[] {
  const { heading, leftOut, levelColumns, titleColumn, pointsRow, maximumColumn } = layout
  const head = heading === null ? [] : (table[heading] ?? [])
  const pointsOf = pointsRow === undefined ? head : (table[pointsRow] ?? [])
  const rows = table.filter((_, i) => i !== heading && i !== pointsRow && !leftOut.includes(i))
  return rows.flatMap((row, nth): Criterion[] => {
    const raw = (row[titleColumn] ?? '').replace(/\s+/g, ' ').trim()
    const columns = levelColumns.filter((c) => c !== titleColumn && ((row[c] ?? '').trim() !== '' || layout.points === 'heading'))
    if (raw === '' && columns.every((c) => (row[c] ?? '').trim() === '')) return []
    const most = maximumColumn === undefined ? undefined : pointsIn(row[maximumColumn] ?? '')?.points
    const levels = columns.flatMap((c, i): RubricLevel[] => {
      const text = (row[c] ?? '').trim()
      const heads = head[c] ?? ''
      if (layout.points === 'none') {
        const place = layout.descending ? columns.length - 1 - i : i
        const share = most === undefined || columns.length < 2 ? place : Number(((most * place) / (columns.length - 1)).toFixed(3))
        return [{ points: share, ...nameIn(heads), words: text }]
      }
      const read = pointsIn(layout.points === 'heading' ? (pointsOf[c] ?? '') : text)
      // A cell without points in a table that has them is not a level of this criterion.
      if (!read) return []
      const { points, to } = read
      const named =
        layout.points === 'heading'
          ? { ...nameIn(pointsRow === undefined ? read.words : heads), words: text }
          : { ...nameIn(heads), words: read.words }
      return [{ points, ...(to === undefined ? {} : { to }), ...named }]
    })
    // Points below 0 are what a penalty takes off.
    const takesOff = levels.some((l) => l.points < 0) && levels.every((l) => l.points <= 0)
    const penalty = takesOff || /\s*\(penalty\)$/i.test(raw)
    return [
      {
        id: id(nth),
        title: raw.replace(/\s*\(penalty\)$/i, '').slice(0, 200) || `Criterion ${nth + 1}`,
        ranges: levels.some((l) => l.to !== undefined),
        penalty,
        levels: (takesOff ? levels.map(takenOff) : levels).sort((a, b) => a.points - b.points),
      },
    ]
  })
}

/** A level of points below 0 as what it takes off. */
function takenOff({ to, ...level }: RubricLevel): RubricLevel {
  const ends = [0 - level.points, 0 - (to ?? level.points)].sort((a, b) => a - b) as [number, number]
  return { ...level, points: ends[0], ...(to === undefined ? {} : { to: ends[1] }) }
}
