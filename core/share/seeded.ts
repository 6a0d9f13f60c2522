import { uniformInt } from 'pure-rand/distribution/uniformInt'
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus'

/** Draws that come out the same for the same seed, on every machine. */
export function seeded(seed: number) {
  const generator = xoroshiro128plus(seed | 0)
  /** A whole number from 0 to below n. */
  const below = (n: number) => uniformInt(generator, 0, n - 1)
  return {
    below,
    /** A new list in a drawn order. */
    shuffled<T>(list: readonly T[]): T[] {
      const out = [...list]
      for (let i = out.length - 1; i > 0; i--) {
        const j = below(i + 1)
        ;[out[i], out[j]] = [out[j]!, out[i]!]
      }
      return out
    },
  }
}
