/** A small seeded generator (mulberry32): the same seed gives the same department on every machine. */
export function random(seed: number) {
  let state = seed >>> 0
  const next = (): number => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), state | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
  const normal = (): number => Math.sqrt(-2 * Math.log(1 - next())) * Math.cos(2 * Math.PI * next())
  const below = (n: number): number => Math.floor(next() * n)
  return {
    next,
    below,
    normal: (mean: number, sd: number) => mean + sd * normal(),
    pick: <T>(list: readonly T[]): T => list[below(list.length)]!,
    chance: (p: number) => next() < p,
  }
}

export type Random = ReturnType<typeof random>

export const clamp = (x: number, low: number, high: number): number => Math.min(high, Math.max(low, x))
/** To the nearest half. */
export const half = (x: number): number => Math.round(x * 2) / 2
