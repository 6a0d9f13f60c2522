/**
 * Rationals over BigInt, only as much as deciding a tie needs. Sums take the least common denominator: marks
 * and weights are short decimals, so the numbers stay small and the common factor is found in doubles.
 */
export interface Rational {
  readonly n: bigint
  /** Always positive. */
  readonly d: bigint
}

const MAX_EXACT = BigInt(Number.MAX_SAFE_INTEGER)

function gcd(a: bigint, b: bigint): bigint {
  let x = a < 0n ? -a : a
  let y = b
  while (y > MAX_EXACT || x > MAX_EXACT) {
    if (y === 0n) return x
    ;[x, y] = [y, x % y]
  }
  let p = Number(x)
  let q = Number(y)
  while (q !== 0) [p, q] = [q, p % q]
  return BigInt(p)
}

function make(n: bigint, d: bigint): Rational {
  const g = gcd(n, d)
  return g === 1n ? { n, d } : { n: n / g, d: d / g }
}

export const ZERO: Rational = { n: 0n, d: 1n }

export function plus(a: Rational, b: Rational): Rational {
  if (a.d === b.d) return { n: a.n + b.n, d: a.d }
  const common = gcd(a.d, b.d)
  const scale = b.d / common
  return { n: a.n * scale + b.n * (a.d / common), d: a.d * scale }
}
export const minus = (a: Rational, b: Rational): Rational => plus(a, { n: -b.n, d: b.d })
export const times = (a: Rational, b: Rational): Rational => make(a.n * b.n, a.d * b.d)

/** @throws RangeError when `b` is zero. */
export function over(a: Rational, b: Rational): Rational {
  if (b.n === 0n) throw new RangeError('division by zero')
  return b.n < 0n ? make(-a.n * b.d, a.d * -b.n) : make(a.n * b.d, a.d * b.n)
}

/** Negative, zero or positive, as `a` is below, at or above `b`. */
export function compare(a: Rational, b: Rational): number {
  const left = a.n * b.d
  const right = b.n * a.d
  return left < right ? -1 : left > right ? 1 : 0
}

export const least = (a: Rational, b: Rational): Rational => (compare(a, b) <= 0 ? a : b)
export const most = (a: Rational, b: Rational): Rational => (compare(a, b) >= 0 ? a : b)

/** The double nearest to `a`, for any size of numerator and denominator. */
export function toNumber(a: Rational): number {
  const g = gcd(a.n, a.d)
  const n = a.n / g
  const d = a.d / g
  if (-MAX_EXACT <= n && n <= MAX_EXACT && d <= MAX_EXACT) return Number(n) / Number(d)
  // 40 digits after the point are far beyond a double's 17, and the parser rounds correctly.
  const whole = n / d
  const rest = ((n < 0n ? -n : n) % d) * 10n ** 40n
  return Number(`${n < 0n && whole === 0n ? '-' : ''}${whole}.${String(rest / d).padStart(40, '0')}`)
}
/** Digits after the point up to which a number is taken as the decimal that is written. */
const PLAIN_DECIMALS = 6
/** How many units in the last place a mark may have drifted on its way from a simple fraction. */
const DRIFT = 8 * Number.EPSILON
const LARGEST_DENOMINATOR = 1_000_000

/**
 * The rational that a double stands for. A mark of at most six decimals is that decimal. A longer one
 * came from a division (a mean of three readings, a point on a line), so the simplest fraction within a
 * few units of its last place is taken, and a mean of 61, 62 and 62 is 185/3 again.
 * @throws RangeError for NaN or an infinity.
 */
export function rationalOf(x: number): Rational {
  if (!Number.isFinite(x)) throw new RangeError(`not a finite number: ${x}`)
  if (Number.isInteger(x)) return { n: BigInt(x), d: 1n }
  for (let places = 1, scale = 10; places <= PLAIN_DECIMALS; places++, scale *= 10) {
    const scaled = Math.round(x * scale)
    if (scaled / scale === x) return { n: BigInt(scaled), d: BigInt(scale) }
  }
  return simplestFraction(x) ?? decimalAsWritten(x)
}

/** Continued fraction of `x`, stopped at the first convergent that is as good as `x` itself. */
function simplestFraction(x: number): Rational | null {
  const sign = x < 0 ? -1n : 1n
  const target = Math.abs(x)
  let [n0, d0, n1, d1] = [0, 1, 1, 0]
  let rest = target
  for (let step = 0; step < 40; step++) {
    const whole = Math.floor(rest)
    ;[n0, d0, n1, d1] = [n1, d1, whole * n1 + n0, whole * d1 + d0]
    if (d1 > LARGEST_DENOMINATOR) return null
    if (Math.abs(n1 / d1 - target) <= target * DRIFT) return { n: sign * BigInt(n1), d: BigInt(d1) }
    rest = 1 / (rest - whole)
  }
  return null
}

function decimalAsWritten(x: number): Rational {
  const [digits, exponent] = x.toExponential().split('e') as [string, string]
  const [whole, part = ''] = digits.split('.') as [string, string?]
  const power = Number(exponent) - part.length
  const n = BigInt(whole + part)
  return power >= 0 ? { n: n * 10n ** BigInt(power), d: 1n } : { n, d: 10n ** BigInt(-power) }
}

/** `a` rounded half up (away from zero) to so many decimals. */
export function roundHalfUp(a: Rational, decimals: number): Rational {
  const scale = 10n ** BigInt(decimals)
  const size = a.n < 0n ? -a.n : a.n
  const n = (2n * size * scale + a.d) / (2n * a.d)
  return { n: a.n < 0n ? -n : n, d: scale }
}

/** `a` rounded half up (away from zero) to a multiple of `step`, which must be above 0. */
export function roundToStep(a: Rational, step: Rational): Rational {
  return times(roundHalfUp(over(a, step), 0), step)
}
