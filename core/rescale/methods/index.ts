import { add, type Add } from './add'
import { curve, type Curve } from './curve'
import { line, type Line } from './line'
import type { MarkMap, Method } from './method'
import { multiply, type Multiply } from './multiply'
import { topTo, type TopTo } from './top-to'

export { AdjustmentError, type Point } from './method'

export type AdjustmentMethod = Add | Multiply | TopTo | Line | Curve
export type MethodKind = AdjustmentMethod['kind']

/** Every way to rescale, in the order in which they are offered. */
export const METHODS: { [K in MethodKind]: Method<Extract<AdjustmentMethod, { kind: K }>> } = { add, multiply, topTo, line, curve }
export const METHOD_KINDS = Object.keys(METHODS) as MethodKind[]

/** What a method is, whichever it is. */
export const methodOf = (kind: MethodKind): Method<AdjustmentMethod> => METHODS[kind] as unknown as Method<AdjustmentMethod>

/** A method as a map from mark to mark. @throws AdjustmentError where it makes no sense */
export const mapOf = (method: AdjustmentMethod, marks: readonly number[]): MarkMap => methodOf(method.kind).map(method, marks)
