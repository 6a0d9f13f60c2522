import { compare, minus, rationalOf, type Rational } from '../grades/rational'
import { scaleValue, type Scale } from './scale'

export interface CarriedLabel {
  label: string
  /** Nothing says the same any more: of the labels that are there, this one's percent is the nearest. */
  nearest: boolean
}

/**
 * Carries an overall judgement over to another version of its scale: the label of the same name, whatever percent it stands for now;
 * where that name is gone and nothing but names changed at its place, the name that took its place; else the label whose percent is
 * nearest, the lower of two equally near.
 * @returns null where the earlier version has no such label, or the later one none at all
 */
export function carryLabel(from: Scale, to: Scale, label: string): CarriedLabel | null {
  const percent = scaleValue(from, label)
  if (percent === null || to.labels.length === 0) return null
  const is = (name: string) => (l: Scale['labels'][number]) => l.label.trim().toLowerCase() === name.trim().toLowerCase()
  const same = to.labels.find(is(label))
  if (same) return { label: same.label, nearest: false }
  const renamed = from.labels.length === to.labels.length ? to.labels[from.labels.findIndex(is(label))] : undefined
  if (renamed?.percent === percent && !from.labels.some(is(renamed.label))) return { label: renamed.label, nearest: false }
  const distance = (l: Scale['labels'][number]): Rational => {
    const d = minus(rationalOf(l.percent), rationalOf(percent))
    return compare(d, rationalOf(0)) < 0 ? minus(rationalOf(0), d) : d
  }
  const rising = [...to.labels].sort((a, b) => a.percent - b.percent)
  const nearest = rising.reduce((best, l) => (compare(distance(l), distance(best)) < 0 ? l : best))
  return { label: nearest.label, nearest: true }
}
