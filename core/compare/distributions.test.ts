import chisquareCdf from '@stdlib/stats-base-dists-chisquare-cdf'
import fQuantile from '@stdlib/stats-base-dists-f-quantile'
import tCdf from '@stdlib/stats-base-dists-t-cdf'
import tQuantile from '@stdlib/stats-base-dists-t-quantile'

// What p values and intervals are read from, against closed forms: 1e-9 of the value where it is over 1, absolute below.
const close = (found: number, exact: number) => expect(Math.abs(found - exact)).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(exact)))
const P = [0.0005, 0.005, 0.025, 0.05, 0.2, 0.5, 0.7, 0.95, 0.975, 0.995, 0.9995]
const X = [-40, -6.3, -2.1, -0.4, 0, 0.3, 1, 1.96, 5, 33]

test('t with one, two and four degrees of freedom (Johnson, Kotz and Balakrishnan, vol. 2, ch. 28)', () => {
  for (const p of P) {
    const a = 4 * p * (1 - p)
    close(tQuantile(p, 1), p === 0.5 ? 0 : -1 / Math.tan(Math.PI * p))
    close(tQuantile(p, 2), (2 * (p - 0.5)) / Math.sqrt(a / 2))
    const q = Math.cos(Math.acos(Math.sqrt(a)) / 3) / Math.sqrt(a)
    close(tQuantile(p, 4), 2 * Math.sign(p - 0.5) * Math.sqrt(Math.max(0, q - 1)))
  }
  for (const x of X) {
    close(tCdf(x, 1), 0.5 + Math.atan(x) / Math.PI)
    close(tCdf(x, 2), 0.5 + x / (2 * Math.sqrt(2 + x * x)))
    close(tCdf(x, 3), 0.5 + (x / Math.sqrt(3) / (1 + (x * x) / 3) + Math.atan(x / Math.sqrt(3))) / Math.PI)
  }
})

test('chi squared with even degrees of freedom is a sum of a Poisson’s terms', () => {
  for (const df of [2, 4, 10, 30])
    for (const x of [0, 0.01, 0.7, 3.84, 9.21, 40, 120]) {
      let [term, sum] = [1, 1]
      for (let k = 1; k < df / 2; k++) {
        term *= x / 2 / k
        sum += term
      }
      close(chisquareCdf(x, df), 1 - Math.exp(-x / 2) * sum)
    }
})

test('F with two degrees of freedom above or below has its quantile in closed form; turned round it is its reciprocal', () => {
  for (const p of P)
    for (const d of [1, 2, 7, 23, 140, 1100]) {
      close(fQuantile(p, 2, d), (d / 2) * ((1 - p) ** (-2 / d) - 1))
      close(fQuantile(p, d, 2), 1 / ((d / 2) * (p ** (-2 / d) - 1)))
    }
})

test('F with one degree of freedom above is the square of t', () => {
  for (const p of P) for (const d of [1, 2, 4]) close(fQuantile(p, 1, d), tQuantile((1 + p) / 2, d) ** 2)
})
