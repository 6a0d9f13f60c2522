const NAMES = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']

/** Weekdays 1..7 as words: "Mon Thu". */
export const writeWeekdays = (weekdays: readonly number[]): string => weekdays.map((d) => NAMES[d - 1]).join(' ')

/** Weekdays from words ("Mon Thu", "monday/thursday") or numbers 1..7. @returns null where one is neither */
export function readWeekdays(text: string): number[] | null {
  const parts = text.split(/[^\p{L}\p{N}]+/u).filter(Boolean)
  const days = parts.map((p) => {
    if (/^[1-7]$/.test(p)) return Number(p)
    const start = p.slice(0, 3).toLowerCase()
    return start.length < 2 ? 0 : NAMES.findIndex((n) => n.toLowerCase().startsWith(start)) + 1
  })
  return days.includes(0) ? null : [...new Set(days)].sort((a, b) => a - b)
}
