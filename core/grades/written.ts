/** The sign between a number's whole part and its decimals. */
export type DecimalSign = 'point' | 'comma'

/** Languages that write numbers in the ways one can choose between. */
const LANGUAGES: Record<DecimalSign, string> = { point: 'en-GB', comma: 'de-DE' }
const formats = new Map<string, Intl.NumberFormat>()

/**
 * A number as people read it: rounded half up (away from zero) as the decimal that is written, and not as the double that stands for it:
 * 1.005 is 1.01.
 * @param least decimals that are always written
 * @param most decimals at most
 * @param sign whether a plus is written too, but for what rounds to nothing
 */
export function written(
  x: number,
  decimal: DecimalSign,
  { least = 0, most, sign = 'negative' }: { least?: number; most: number; sign?: 'negative' | 'exceptZero' },
): string {
  const key = `${decimal} ${least} ${most} ${sign}`
  let of = formats.get(key)
  if (!of) {
    of = new Intl.NumberFormat(LANGUAGES[decimal], {
      minimumFractionDigits: least,
      maximumFractionDigits: most,
      useGrouping: false,
      signDisplay: sign,
    })
    formats.set(key, of)
  }
  // Of a sum of doubles the last places are none of its own: 60.74999999999999 is 60.75.
  return of.format(x.toFixed(9) as `${number}`).replace('-', '−')
}
