interface Row {
  line: number
  cells: readonly string[]
}
const filled = (cells: readonly string[]): number => cells.filter((c) => c.trim() !== '').length

/**
 * The heading that begins or ends in a row of a table, which people write in one row or in two: groups above (a merged cell is its text
 * and blanks), names beneath. A name is said with its group where it would else be there twice.
 * @param at the row’s place among `rows`
 * @returns the names of the columns, and how many of the rows after `at` belong to the heading (none or one)
 */
export function headingAt(rows: readonly Row[], at: number): { cells: string[]; beneath: number } {
  const own = rows[at]?.cells.map((c) => c.trim()) ?? []
  const below = rows[at + 1]
  if (below && isNextTo(rows[at]!, below) && fillsGroups(own, below.cells)) return { cells: named(own, below.cells), beneath: 1 }
  const above = rows[at - 1]
  if (above && isNextTo(above, rows[at]!) && filled(above.cells) > 1) return { cells: named(above.cells, own), beneath: 0 }
  return { cells: own, beneath: 0 }
}

const isNextTo = (first: Row, second: Row): boolean => second.line === first.line + 1

/** Whether a row names columns of which the heading above has only groups: it says something there, and nothing anywhere else. */
function fillsGroups(groups: readonly string[], names: readonly string[]): boolean {
  const blank = (i: number) => i >= 0 && i < Math.max(groups.length, names.length) && (groups[i] ?? '').trim() === ''
  const inGroup = (i: number) => blank(i) || blank(i + 1)
  return (
    names.every((name, i) => name.trim() === '' || inGroup(i)) &&
    names.some((name, i) => name.trim() !== '' && blank(i)) &&
    groups.some((g, i) => g.trim() !== '' && !inGroup(i))
  )
}

function named(groups: readonly string[], names: readonly string[]): string[] {
  const width = Math.max(groups.length, names.length)
  const times = new Map<string, number>()
  for (const n of names) times.set(n.trim().toLowerCase(), (times.get(n.trim().toLowerCase()) ?? 0) + 1)
  let group = ''
  return Array.from({ length: width }, (_, i) => {
    const [above, name] = [(groups[i] ?? '').trim(), (names[i] ?? '').trim()]
    if (above !== '') group = above
    if (name === '') return above
    return group !== '' && times.get(name.toLowerCase())! > 1 ? `${group} ${name}` : name
  })
}
