import { TZDate } from '@date-fns/tz'
import { format, parseISO } from 'date-fns'
import { dayAt } from '#core/roll'
import type { OwnSettings } from '#contract'
import { page } from '../api/client'
/** Figures as people read them. An undefined figure is a dash, never a zero. */
export const DASH = '–'

export const fixed = (x: number | null | undefined, decimals = 1): string => written(x, decimals, decimals, 'negative')

/** A mark without trailing zeros, at most three decimals. */
export const numeral = (x: number | null | undefined): string => written(x, 0, 3, 'negative')

/** Points of a criterion as they count: those of a penalty are taken off. */
export const pointsGiven = ({ penalty }: { penalty?: boolean | undefined }, points: number | null | undefined): string =>
  numeral(penalty && points ? -points : points)

/** With its sign, but for what rounds to nothing. */
export const signed = (x: number | null | undefined, decimals = 1): string => written(x, decimals, decimals, 'exceptZero')

/** Languages that write numbers in the ways one can choose between. */
const LANGUAGES: Record<OwnSettings['decimal'], string> = { point: 'en-GB', comma: 'de-DE' }
const formats = new Map<string, Intl.NumberFormat>()

/** Rounded half up (away from zero) as the decimal that is written, and not as the double that stands for it: 1.005 is 1.01. */
function written(x: number | null | undefined, least: number, most: number, signDisplay: 'negative' | 'exceptZero'): string {
  if (x === null || x === undefined) return DASH
  const { decimal } = page.settings
  const key = `${decimal} ${least} ${most} ${signDisplay}`
  let of = formats.get(key)
  if (!of) {
    of = new Intl.NumberFormat(LANGUAGES[decimal], {
      minimumFractionDigits: least,
      maximumFractionDigits: most,
      useGrouping: false,
      signDisplay,
    })
    formats.set(key, of)
  }
  // Of a sum of doubles the last places are none of its own: 60.74999999999999 is 60.75.
  return of.format(x.toFixed(9) as `${number}`).replace('-', '−')
}

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
export const shownAt = (moment: string, pattern: string): string => format(new TZDate(moment, page.timeZone), inOwnOrder(pattern))

/** A day (ISO) as one reads it. @param pattern as one writes it who puts the day first: “d MMM yyyy”, “EEE d MMM” */
export const shownDay = (day: string, pattern = 'd MMM yyyy'): string => format(parseISO(day), inOwnOrder(pattern))

const DAY_FIRST = /d MMMM?( yyyy)?/
const inOwnOrder = (pattern: string): string => (page.settings.days === 'day first' ? pattern : pattern.replace(DAY_FIRST, 'yyyy-MM-dd'))

/** Today, in the installation's time zone. */
export const today = (): string => dayAt(new Date(), page.timeZone)
