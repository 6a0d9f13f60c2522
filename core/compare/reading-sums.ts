import type { ReadingSet } from './reading-set'

/** What is known of the readings once they were gone through. */
export interface Sums {
  n: number
  perMarker: Int32Array
  perScript: Int32Array
  /** Markers who read anything, and the column of each; −1 for who did not. */
  active: number[]
  place: Int32Array
  /** Columns: a marker each, then the criteria but the first. */
  width: number
  /** XᵀX, its lower triangle alone, and Xᵀy. */
  xx: Float64Array
  xy: Float64Array
  yy: number
  /** By how many readings a script has: how many such scripts, and over them Σ x·xᵀ (its lower triangle), Σ x·s and Σ s² with x and s its sums of X and y. */
  bySize: Map<number, { scripts: number; xx: Float64Array; xs: Float64Array; ss: number }>
}

/** Everything that grows with the readings, in one pass. */
export function sumsOf({ script, marker, mark, criterion, scripts, markers, criteria = 1 }: ReadingSet): Sums {
  const n = mark.length
  const perMarker = new Int32Array(markers)
  const perScript = new Int32Array(scripts)
  for (let r = 0; r < n; r++) {
    perMarker[marker[r]!]!++
    perScript[script[r]!]!++
  }
  const active = [...perMarker.keys()].filter((m) => perMarker[m]! > 0)
  const place = new Int32Array(markers).fill(-1)
  active.forEach((m, i) => (place[m] = i))
  const width = active.length + criteria - 1
  // Readings by their script, so that each is summed at a time.
  const from = new Int32Array(scripts + 1)
  for (let s = 0; s < scripts; s++) from[s + 1] = from[s]! + perScript[s]!
  const next = from.slice(0, scripts)
  const at = new Int32Array(n)
  for (let r = 0; r < n; r++) at[next[script[r]!]!++] = r

  const xx = new Float64Array(width * width)
  const xy = new Float64Array(width)
  const bySize: Sums['bySize'] = new Map()
  const x = new Float64Array(width)
  const touched: number[] = []
  const touch = (column: number) => {
    if (x[column] === 0) touched.push(column)
    x[column]!++
  }
  let yy = 0
  for (let s = 0; s < scripts; s++) {
    const size = perScript[s]!
    if (size === 0) continue
    let y = 0
    for (let i = from[s]!; i < from[s + 1]!; i++) {
      const r = at[i]!
      const value = mark[r]!
      const m = place[marker[r]!]!
      y += value
      yy += value * value
      touch(m)
      xx[m * width + m]!++
      xy[m]! += value
      const k = criterion ? criterion[r]! : 0
      if (k === 0) continue
      const c = active.length + k - 1
      touch(c)
      xx[c * width + c]!++
      xx[c * width + m]!++
      xy[c]! += value
    }
    let of = bySize.get(size)
    if (!of) bySize.set(size, (of = { scripts: 0, xx: new Float64Array(width * width), xs: new Float64Array(width), ss: 0 }))
    of.scripts++
    of.ss += y * y
    for (const a of touched) {
      of.xs[a]! += x[a]! * y
      for (const b of touched) if (b <= a) of.xx[a * width + b]! += x[a]! * x[b]!
    }
    for (const a of touched) x[a] = 0
    touched.length = 0
  }
  return { n, perMarker, perScript, active, place, width, xx, xy, yy, bySize }
}
