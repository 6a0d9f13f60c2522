export interface Scale {
  /** From the lowest label up. */
  labels: {
    label: string
    /** Percent that the label stands for. */
    percent: number
    /** Lowest percent that is read back as this label. */
    threshold: number
  }[]
}

/** @returns the percent a label stands for, or null where the scale has no such label. */
export function scaleValue(scale: Scale, label: string): number | null {
  const wanted = label.trim().toLowerCase()
  return scale.labels.find((l) => l.label.toLowerCase() === wanted)?.percent ?? null
}

/** @returns the mark a label gives of an assessment marked out of so many, or null where the scale has no such label. */
export function scaleMark(scale: Scale, label: string, outOf: number): number | null {
  const percent = scaleValue(scale, label)
  return percent === null ? null : (percent / 100) * outOf
}

/** @returns the label with the highest threshold at or below the percent, or null below them all. */
export function scaleLabel(scale: Scale, percent: number): string | null {
  let best: Scale['labels'][number] | null = null
  for (const l of scale.labels) if (l.threshold <= percent && (!best || l.threshold > best.threshold)) best = l
  return best?.label ?? null
}
