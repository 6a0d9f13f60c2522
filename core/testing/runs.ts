/** With which seed, and how many times as many cases, properties are run; null in an ordinary run. */
export const SOAK: { seed: number; times: number } | null = process.env.SOAK_SEED
  ? { seed: Number(process.env.SOAK_SEED), times: Number(process.env.SOAK_TIMES ?? 20) }
  : null

/** How many cases of a property to try where the usual hundred are too few or too many. */
export const runs = (usual: number): number => usual * (SOAK?.times ?? 1)
