const GOLDEN = (3 - Math.sqrt(5)) / 2

/** Nearer than this, relative to the place, rounding hides which of two values is smaller. */
const APART = 1e-5

/**
 * Where a smooth function of one number is smallest between two others, where it has one valley there.
 * @returns the place: where three values APART tell the bottom of a parabola
 * Source: Brent 1973, Algorithms for Minimization without Derivatives, chapter 5, for the search.
 */
export function smallestOf(f: (x: number) => number, from: number, to: number): number {
  const { x, fx } = search(f, from, to)
  const h = APART * (Math.abs(x) + 1e-3)
  if (x - h < from || x + h > to) return x
  const [before, after] = [f(x - h), f(x + h)]
  const bend = before - 2 * fx + after
  const step = (h * (before - after)) / (2 * bend)
  return bend > 0 && Math.abs(step) <= h ? x + step : x
}

function search(f: (x: number) => number, from: number, to: number): { x: number; fx: number } {
  let [a, b] = [from, to]
  let x = a + GOLDEN * (b - a)
  let [w, v] = [x, x]
  let fx = f(x)
  let [fw, fv] = [fx, fx]
  let [step, before] = [0, 0]
  for (let i = 0; i < 200; i++) {
    const middle = (a + b) / 2
    const near = APART * (Math.abs(x) + 1e-3)
    if (Math.abs(x - middle) <= 2 * near - (b - a) / 2) break
    let golden = true
    if (Math.abs(before) > near) {
      const r = (x - w) * (fx - fv)
      let q = (x - v) * (fx - fw)
      let p = (x - v) * q - (x - w) * r
      q = 2 * (q - r)
      if (q > 0) p = -p
      q = Math.abs(q)
      if (Math.abs(p) < Math.abs((q * before) / 2) && p > q * (a - x) && p < q * (b - x)) {
        before = step
        step = p / q
        if (x + step - a < 2 * near || b - x - step < 2 * near) step = x < middle ? near : -near
        golden = false
      }
    }
    if (golden) {
      before = x < middle ? b - x : a - x
      step = GOLDEN * before
    }
    const u = x + (Math.abs(step) >= near ? step : step > 0 ? near : -near)
    const fu = f(u)
    if (fu <= fx) {
      if (u < x) b = x
      else a = x
      ;[v, w, x] = [w, x, u]
      ;[fv, fw, fx] = [fw, fx, fu]
    } else {
      if (u < x) a = u
      else b = u
      if (fu <= fw || w === x) {
        ;[v, w] = [w, u]
        ;[fv, fw] = [fw, fu]
      } else if (fu <= fv || v === x || v === w) {
        v = u
        fv = fu
      }
    }
  }
  return { x, fx }
}
