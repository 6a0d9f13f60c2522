const DAY_OR_MONTH_FIRST = /^(\d{1,2})([./-])(\d{1,2})\2(\d{4})$/
const YEAR_FIRST = /^(\d{4})[./](\d{1,2})[./](\d{1,2})$/

/**
 * Reads the days of a file as ISO days, whichever way it writes them: the year first, or the day first. Where its slashes can only be read
 * with the month first (09/13/2026, and no 13/09/2026), all of them are.
 * @param all every text of the file that is to be a day
 * @returns a reader of one of them; what is no day stays as it is
 */
export function dayReader(all: readonly string[]): (text: string) => string {
  const slashes = all.map((text) => DAY_OR_MONTH_FIRST.exec(text)).filter((m) => m !== null && m[2] === '/')
  const monthFirst = slashes.some((m) => Number(m![3]) > 12) && !slashes.some((m) => Number(m![1]) > 12)
  return (text) => {
    const [, y, mm, dd] = YEAR_FIRST.exec(text) ?? []
    if (y !== undefined) return iso(y, mm!, dd!)
    const [, a, sign, b, year] = DAY_OR_MONTH_FIRST.exec(text) ?? []
    if (a === undefined) return text
    return monthFirst && sign === '/' ? iso(year!, a, b!) : iso(year!, b!, a)
  }
}

const iso = (year: string, month: string, day: string): string => `${year}-${month.padStart(2, '0')}-${day.padStart(2, '0')}`
