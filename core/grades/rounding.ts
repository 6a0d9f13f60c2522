import type { Boundary, Policy } from './course'
import { compare, rationalOf, roundHalfUp, toNumber, type Rational } from './rational'

/** Distance in percent under which a double is not trusted to say on which side of a tie it lies. */
export const NEAR = 1e-7

/** How far percents are rounded, in words. */
export const decimalsInWords = (decimals: number): string => `${decimals} ${decimals === 1 ? 'decimal' : 'decimals'}`

/** Boundaries from the highest limit down, as the engine looks grades up. */
export function descending(boundaries: Boundary[]): Boundary[] {
  return [...boundaries].sort((a, b) => b.from - a.from)
}

/** Whether a percent lies so near a rounding tie, or unrounded so near a boundary, that only exact arithmetic decides. */
export function needsExact(percent: number, rounding: Policy['rounding'], boundaries: Boundary[]): boolean {
  if (!rounding) {
    for (const b of boundaries) if (Math.abs(percent - b.from) <= NEAR) return true
    return false
  }
  const scale = 10 ** rounding.decimals
  const scaled = percent * scale
  return Math.abs(scaled - Math.floor(scaled) - 0.5) <= NEAR * scale
}

/** Rounds a percent (0 or more) that is not near a tie. */
export function roundClear(percent: number, rounding: Policy['rounding']): number {
  if (!rounding) return percent
  const scale = 10 ** rounding.decimals
  return Math.floor(percent * scale + 0.5) / scale
}

/** Index into `sorted` (descending) of the grade for a rounded percent, or -1 below them all. */
export function gradeIndex(rounded: number, sorted: Boundary[]): number {
  for (let i = 0; i < sorted.length; i++) if (rounded >= sorted[i]!.from) return i
  return -1
}

/** Rounded percent and grade index of an exact percent. */
export function gradeExactly(percent: Rational, rounding: Policy['rounding'], sorted: Boundary[]): { rounded: number; grade: number } {
  const value = rounding ? roundHalfUp(percent, rounding.decimals) : percent
  const grade = sorted.findIndex((b) => compare(value, rationalOf(b.from)) >= 0)
  return { rounded: toNumber(value), grade }
}
