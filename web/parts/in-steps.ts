import { group, mean } from 'd3-array'
import { fixed, numeral } from './format'

interface Dot {
  x: number
  y: number
}

/** Dots as rows of a table: how many stand in each step along, and their mean up. Steps that are empty are left out. */
export function inSteps(dots: readonly Dot[], step: number): string[][] {
  const by = [...group(dots, (d) => Math.floor(d.x / step))].sort(([a], [b]) => a - b)
  return by.map(([at, those]) => [
    `${numeral(at * step)} to ${numeral((at + 1) * step)}`,
    String(those.length),
    fixed(mean(those, (d) => d.y)),
  ])
}
