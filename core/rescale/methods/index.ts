import type { Rational } from '../../grades/rational'
import { add, type Add } from './add'
import { anotherMaximum, type AnotherMaximum } from './another-maximum'
import { grant, without, type Grant, type Without } from './criteria'
import { curve, type Curve } from './curve'
import { line, type Line } from './line'
import { markerEffect, type MarkerEffect } from './marker-effect'
import { matchDistribution, type MatchDistribution } from './match-distribution'
import { matchMeanSd, type MatchMeanSd } from './match-mean-sd'
import type { MarkMap, MarkMethod, ReadingMethod, Told } from './method'
import { multiply, type Multiply } from './multiply'
import { topMap, topTo, type TopTo } from './top-to'

export { AdjustmentError, type MarkMap, type Point, type ReadingMap, type TakenFrom } from './method'
export { likeInWords, type Like } from './like'
export type { Grant, Reread, Without } from './criteria'
export { meanSdOf, type MatchMeanSd } from './match-mean-sd'
export type { MatchDistribution } from './match-distribution'

export type AdjustmentMethod =
  Add | Multiply | TopTo | Line | Curve | MatchMeanSd | MatchDistribution | AnotherMaximum | MarkerEffect | Without | Grant
export type MethodKind = AdjustmentMethod['kind']

/** Those that act on readings, before they are agreed; the others act on the marks that come of them. */
export type ReadingKind = 'markerEffect' | 'without' | 'grant'
export type MarkKind = Exclude<MethodKind, ReadingKind>
export type OfKind<K extends MethodKind> = Extract<AdjustmentMethod, { kind: K }>

/** Ways that serve for the course percent as well. */
export type TotalMethod = Add | Multiply | TopTo | Line | Curve
export const TOTAL_KINDS = ['add', 'multiply', 'topTo', 'line', 'curve'] as const satisfies readonly TotalMethod['kind'][]
export const isForTotal = (method: AdjustmentMethod): method is TotalMethod => (TOTAL_KINDS as readonly string[]).includes(method.kind)

/** Every way to rescale, in the order in which they are offered. */
export const METHODS: { [K in MarkKind]: MarkMethod<OfKind<K>> } & { [K in ReadingKind]: ReadingMethod<OfKind<K>> } = {
  add,
  multiply,
  topTo,
  line,
  curve,
  matchMeanSd,
  matchDistribution,
  anotherMaximum,
  markerEffect,
  without,
  grant,
}
export const METHOD_KINDS = Object.keys(METHODS) as MethodKind[]

/** What a method is, whichever it is. */
export const methodOf = (kind: MethodKind): Told<AdjustmentMethod> => METHODS[kind] as unknown as Told<AdjustmentMethod>
export const markMethodOf = (kind: MarkKind): MarkMethod<AdjustmentMethod> => METHODS[kind] as unknown as MarkMethod<AdjustmentMethod>
export const readingMethodOf = (kind: ReadingKind): ReadingMethod<AdjustmentMethod> =>
  METHODS[kind] as unknown as ReadingMethod<AdjustmentMethod>

export const kindOnReadings = (kind: MethodKind): kind is ReadingKind => METHODS[kind].acts === 'readings'
export const actsOnReadings = (method: AdjustmentMethod): method is OfKind<ReadingKind> => kindOnReadings(method.kind)
export const actsOnMarks = (method: AdjustmentMethod): method is OfKind<MarkKind> => !kindOnReadings(method.kind)

/** Whether it counts the criteria of readings another way. */
export const isRereading = (method: AdjustmentMethod): method is Without | Grant => method.kind === 'without' || method.kind === 'grant'

/** Whether it says by which figures it was fixed, so that later marks change nothing of what it does. */
export function isFixed(method: AdjustmentMethod): boolean {
  if (method.kind === 'topTo') return method.highest !== undefined
  return (method.kind !== 'matchMeanSd' && method.kind !== 'matchDistribution') || method.from !== undefined
}

/** A method as a map from mark to mark. @throws AdjustmentError where it makes no sense */
export const mapOf = (method: OfKind<MarkKind>, marks: readonly number[]): MarkMap => markMethodOf(method.kind).map(method, marks)

/** The same for the course percent. @param highest of those going in, for a method that was not fixed by it */
export const adjustmentMap = (method: TotalMethod, highest: Rational | null): MarkMap =>
  method.kind === 'topTo' && method.highest === undefined ? topMap(method, highest) : mapOf(method, [])

/** Whether a way of the course percent is one straight line. */
export const isLinear = (method: TotalMethod): boolean => method.kind !== 'curve'
