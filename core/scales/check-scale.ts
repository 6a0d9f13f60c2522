import type { Scale } from './scale'

export interface ScaleFinding {
  kind: 'empty' | 'no label' | 'double label' | 'not a percent' | 'out of order' | 'fractions' | 'threshold' | 'gap'
  /** Place of the label it is about; null for the whole. */
  place: number | null
  message: string
  /** The scale with it mended, where that can be done without a person. */
  mended: Scale | null
}

const round = (x: number) => Number(x.toFixed(3))

/** Thresholds halfway between neighbouring percents; the lowest label is read from 0. */
export function halfwayThresholds(scale: Scale): Scale {
  const labels = [...scale.labels].sort((a, b) => a.percent - b.percent)
  return {
    labels: labels.map((l, i) => ({ ...l, threshold: i === 0 ? 0 : round((labels[i - 1]!.percent + l.percent) / 2) })),
  }
}

/**
 * What is wrong with a scale, from the lowest label up: names that are missing or double, percents outside 0 to 100, labels that do
 * not rise, fractions typed for percents, a threshold that its own percent does not reach, percents that no label is read from.
 */
export function checkScale(scale: Scale): ScaleFinding[] {
  const { labels } = scale
  const findings: ScaleFinding[] = []
  const add = (kind: ScaleFinding['kind'], place: number | null, message: string, mended: Scale | null = null) =>
    findings.push({ kind, place, message, mended })
  if (labels.length < 2) add('empty', null, 'A scale needs two labels at least.')
  if (labels.length > 0 && labels.every((l) => l.percent >= 0 && l.percent <= 1) && labels.some((l) => l.percent > 0)) {
    const hundred = { labels: labels.map((l) => ({ ...l, percent: round(l.percent * 100), threshold: round(l.threshold * 100) })) }
    add('fractions', null, 'These look like fractions: were percents meant?', hundred)
  }
  const seen = new Map<string, number>()
  labels.forEach((l, i) => {
    const name = l.label.trim()
    if (name === '') add('no label', i, `The label at ${l.percent}% has no name.`)
    else if (seen.has(name.toLowerCase())) add('double label', i, `“${name}” stands twice.`)
    else seen.set(name.toLowerCase(), i)
    if (!(l.percent >= 0 && l.percent <= 100)) add('not a percent', i, `${name || 'A label'} stands for ${l.percent}, outside 0 to 100.`)
    const before = labels[i - 1]
    if (before && l.percent <= before.percent)
      add('out of order', i, `${name} at ${l.percent}% does not stand above ${before.label} at ${before.percent}%.`, {
        labels: [...labels].sort((a, b) => a.percent - b.percent),
      })
    if (l.threshold > l.percent || (before && l.threshold <= before.threshold))
      add(
        'threshold',
        i,
        `${name} is read back from ${l.threshold}%, ${l.threshold > l.percent ? `above its own ${l.percent}%` : `not above ${before!.label}’s ${before!.threshold}%`}.`,
        halfwayThresholds(scale),
      )
  })
  const lowest = Math.min(...labels.map((l) => l.threshold))
  if (labels.length > 0 && lowest > 0)
    add(
      'gap',
      labels.findIndex((l) => l.threshold === lowest),
      `Percents below ${lowest} are read back as no label.`,
      {
        labels: labels.map((l) => (l.threshold === lowest ? { ...l, threshold: 0 } : l)),
      },
    )
  return findings
}
