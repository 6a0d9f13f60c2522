import { TZDate } from '@date-fns/tz'
import { format, parseISO } from 'date-fns'
import { written } from '#core/grades'
import { dayAt } from '#core/roll'
import { page } from '../api/client'
/** Figures as people read them. An undefined figure is a dash, never a zero. */
export const DASH = '–'

const own = (x: number | null | undefined, how: Parameters<typeof written>[2]): string =>
  x === null || x === undefined ? DASH : written(x, page.settings.decimal, how)

export const fixed = (x: number | null | undefined, decimals = 1): string => own(x, { least: decimals, most: decimals })

/** A mark without trailing zeros, at most three decimals. */
export const numeral = (x: number | null | undefined): string => own(x, { most: 3 })

/** Points of a criterion as they count: those of a penalty are taken off. */
export const pointsGiven = ({ penalty }: { penalty?: boolean | undefined }, points: number | null | undefined): string =>
  numeral(penalty && points ? -points : points)

/** With its sign, but for what rounds to nothing. */
export const signed = (x: number | null | undefined, decimals = 1): string =>
  own(x, { least: decimals, most: decimals, sign: 'exceptZero' })

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
