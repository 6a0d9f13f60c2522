import { TZDate } from '@date-fns/tz'
import { format } from 'date-fns'
import { dayAt } from '#core/roll'
import { page } from '../api/client'
/** Figures as people read them. An undefined figure is a dash, never a zero. */
export const DASH = '–'

export const fixed = (x: number | null | undefined, decimals = 1): string =>
  x === null || x === undefined ? DASH : halfUp(x, decimals).replace('-', '−')

/** A mark without trailing zeros, at most three decimals. */
export const numeral = (x: number | null | undefined): string =>
  x === null || x === undefined ? DASH : String(Number(halfUp(x, 3))).replace('-', '−')

export const signed = (x: number | null | undefined, decimals = 1): string =>
  x === null || x === undefined ? DASH : `${signOf(x, decimals)}${halfUp(Math.abs(x), decimals)}`

/** Rounded half up (away from zero) as the decimal that is written, and not as the double that stands for it: 1.005 is 1.01. */
function halfUp(x: number, decimals: number): string {
  const written = String(Math.abs(x))
  if (written.includes('e')) return x.toFixed(decimals)
  const size = Number(`${Math.round(Number(`${written}e${decimals}`))}e-${decimals}`)
  return (x < 0 ? -size : size).toFixed(decimals)
}

/** What rounds to nothing has no sign. */
const signOf = (x: number, decimals: number): string => (Number(halfUp(x, decimals)) === 0 ? '' : x > 0 ? '+' : '−')

export const share = (x: number | null): string => (x === null ? DASH : `${Math.round(x * 100)}%`)

export const counted = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`

/** The number typed, or null; a comma for the point is understood while typing. */
export function typedNumber(text: string): number | null {
  const t = text
    .trim()
    .replace('−', '-')
    .replace(/^(-?\d+),(\d+)$/, '$1.$2')
  return /^-?(\d+\.?\d*|\.\d+)$/.test(t) ? Number(t) : null
}

/** A moment as it is told: in the installation's time zone, wherever the page is open. */
export const shownAt = (moment: string, pattern: string): string => format(new TZDate(moment, page.timeZone), pattern)
/** Today, in the installation's time zone. */
export const today = (): string => dayAt(new Date(), page.timeZone)
