const STEPS = [0.1, 0.25, 0.5, 1, 2, 5, 10, 20, 50, 100]

/** A plain step that gives an axis up to `top` at most ten parts. */
export const tickStep = (top: number): number => STEPS.find((s) => top / s <= 10) ?? top / 10

/** The figures of an axis from one plain step to another. */
export function ticksOf(from: number, top: number): number[] {
  const width = tickStep(top)
  // What it is marked out of need not be a multiple of the step.
  return Array.from({ length: Math.floor((top - from) / width + 1e-9) + 1 }, (_, i) => from + i * width)
}
