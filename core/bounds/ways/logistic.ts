const ROUNDS = 60
const SETTLED = 1e-10

/**
 * The chance of a yes as a logistic curve of one figure: 1 / (1 + exp(−(intercept + slope·x))), by greatest likelihood (Newton's steps).
 * @param x figures; @param yes 1 or 0 for each
 * @returns null where no curve fits best: one answer alone, no difference in x, or a value of x that parts yes from no
 * Source: Hosmer, Lemeshow & Sturdivant 2013, Applied Logistic Regression, section 1.2.
 */
export function logistic(x: readonly number[], yes: readonly number[]): { intercept: number; slope: number } | null {
  const n = x.length
  const mean = x.reduce((s, v) => s + v, 0) / n
  const spread = Math.sqrt(x.reduce((s, v) => s + (v - mean) ** 2, 0) / n)
  if (!(spread > 0) || isParted(x, yes)) return null
  const z = x.map((v) => (v - mean) / spread)
  let [a, b] = [0, 0]
  for (let round = 0; round < ROUNDS; round++) {
    let [ga, gb, haa, hab, hbb] = [0, 0, 0, 0, 0]
    for (let i = 0; i < n; i++) {
      const p = 1 / (1 + Math.exp(-(a + b * z[i]!)))
      const w = p * (1 - p)
      ga += yes[i]! - p
      gb += (yes[i]! - p) * z[i]!
      haa += w
      hab += w * z[i]!
      hbb += w * z[i]! * z[i]!
    }
    const det = haa * hbb - hab * hab
    if (!(det > 1e-14)) return null
    const [da, db] = [(hbb * ga - hab * gb) / det, (haa * gb - hab * ga) / det]
    a += da
    b += db
    if (Math.abs(da) + Math.abs(db) < SETTLED) return { intercept: a - (b * mean) / spread, slope: b / spread }
  }
  return null
}

/** Whether every yes lies on one side of a value, or on it, and every no on the other. */
function isParted(x: readonly number[], yes: readonly number[]): boolean {
  let [yesLow, yesHigh, noLow, noHigh] = [Infinity, -Infinity, Infinity, -Infinity]
  x.forEach((v, i) => {
    if (yes[i]) [yesLow, yesHigh] = [Math.min(yesLow, v), Math.max(yesHigh, v)]
    else [noLow, noHigh] = [Math.min(noLow, v), Math.max(noHigh, v)]
  })
  return yesLow >= noHigh || noLow >= yesHigh
}
