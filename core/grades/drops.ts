/**
 * Which assessments a "drop lowest" leaves out: the ones whose removal gives the greatest percent. Under
 * unequal worths those need not be the lowest fractions (Kane & Kane 2006, Mathematics Magazine 79:181–189);
 * for a ratio λ the best set is the k lowest of worth·(f − λ), and Dinkelbach's iteration finds the λ.
 */
export interface DropScratch {
  /** Fraction of each assessment; only those flagged in `ordinary` are read. */
  f: Float64Array
  /** 1 where the assessment is scored and no bonus. */
  ordinary: Uint8Array
  /** Written: 1 where the assessment is dropped. */
  dropped: Uint8Array
  value: Float64Array
  /** Room for the columns that are dropped. */
  lowest: Int32Array
}

export interface DropColumns {
  inside: Float64Array
  droppable: Uint8Array
}

/** Nothing is closer than this by chance: closer values are compared in exact arithmetic. */
const NEAR = 1e-10
const MAX_ITERATIONS = 50

export type DropOutcome = 'clear' | 'tied' | 'unsure' | 'impossible'

/**
 * Marks the `k` assessments of the columns `start..end` to drop in `s.dropped`.
 * `rank` breaks ties: of two equally good ones the one of higher rank goes.
 * @returns `tied` when another choice is exactly as good, `unsure` when doubles cannot tell,
 *   `impossible` when every choice leaves nothing that carries weight.
 */
export function chooseDrops(
  columns: DropColumns,
  s: DropScratch,
  start: number,
  end: number,
  k: number,
  even: boolean,
  bonusPoints: number,
  rank: Int32Array,
): DropOutcome {
  const { inside, droppable } = columns
  if (even) return takeLowest(columns, s, s.f, start, end, k, rank)
  let lambda = -Infinity
  let outcome: DropOutcome = 'clear'
  for (let a = start; a < end; a++) s.value[a] = inside[a]! * s.f[a]!
  for (let i = 0; i < MAX_ITERATIONS; i++) {
    outcome = takeLowest(columns, s, s.value, start, end, k, rank)
    if (outcome === 'impossible') return outcome
    let n = bonusPoints
    let w = 0
    for (let a = start; a < end; a++)
      if (s.ordinary[a] && !s.dropped[a]) {
        n += inside[a]! * s.f[a]!
        w += inside[a]!
      }
    const next = n / w
    if (!(next > lambda + 1e-15)) return outcome
    lambda = next
    for (let a = start; a < end; a++) if (droppable[a]) s.value[a] = inside[a]! * (s.f[a]! - lambda)
  }
  return outcome
}

/** Drops the k lowest values, keeping at least one assessment that carries weight. */
function takeLowest(
  { inside, droppable }: DropColumns,
  s: DropScratch,
  value: Float64Array,
  start: number,
  end: number,
  k: number,
  rank: Int32Array,
): DropOutcome {
  const { ordinary, dropped, lowest } = s
  // The k lowest so far, the lowest first, and how low the others go.
  let found = 0
  let others = Infinity
  let heavy = 0
  for (let a = start; a < end; a++) {
    dropped[a] = 0
    if (ordinary[a] === 0) continue
    if (inside[a]! > 0) heavy++
    if (droppable[a] === 0) continue
    const v = value[a]!
    let at = found
    while (at > 0) {
      const before = lowest[at - 1]!
      const than = value[before]!
      if (than < v || (than === v && rank[before]! > rank[a]!)) break
      at--
    }
    if (at === k) {
      if (v < others) others = v
      continue
    }
    if (found === k) others = Math.min(others, value[lowest[k - 1]!]!)
    else found++
    for (let i = found - 1; i > at; i--) lowest[i] = lowest[i - 1]!
    lowest[at] = a
  }
  for (let i = 0; i < k; i++) {
    const a = lowest[i]!
    dropped[a] = 1
    if (inside[a]! > 0) heavy--
  }
  if (heavy === 0) return keepOneThatCarries(inside, droppable, s, value, start, end, rank) ? 'unsure' : 'impossible'
  const last = lowest[k - 1]!
  const near = NEAR * (1 + Math.abs(value[last]!))
  if (others - value[last]! > near) return 'clear'
  let outcome: DropOutcome = 'clear'
  for (let a = start; a < end; a++) {
    if (!ordinary[a] || !droppable[a] || dropped[a]) continue
    if (value[a] === value[last] && s.f[a] === s.f[last] && inside[a] === inside[last]) {
      if (outcome === 'clear') outcome = 'tied'
    } else if (value[a]! - value[last]! <= near) outcome = 'unsure'
  }
  return outcome
}

/** All that carried weight was dropped: take the best of it back and let a weightless one go instead. */
function keepOneThatCarries(
  inside: Float64Array,
  droppable: Uint8Array,
  s: DropScratch,
  value: Float64Array,
  start: number,
  end: number,
  rank: Int32Array,
): boolean {
  let back = -1
  let instead = -1
  for (let a = start; a < end; a++) {
    if (!s.ordinary[a] || !droppable[a]) continue
    if (s.dropped[a] && inside[a]! > 0) {
      if (back < 0 || value[a]! > value[back]! || (value[a] === value[back] && rank[a]! < rank[back]!)) back = a
    } else if (!s.dropped[a] && (instead < 0 || rank[a]! > rank[instead]!)) instead = a
  }
  if (back < 0 || instead < 0) return false
  s.dropped[back] = 0
  s.dropped[instead] = 1
  return true
}
