import type { z } from 'zod'

/** True where two types are one and the same: a field more on either side, or another kind, makes it false. */
type Same<A, B> = (<T>() => T extends A ? 1 : 2) extends <T>() => T extends B ? 1 : 2 ? true : false

/** Written out as one object, so that what is put together from parts compares with what is written in one. */
type Plain<T> = T extends object ? { [K in keyof T]: Plain<T[K]> } : T

/**
 * A schema of what the core has declared: `says<Policy>()(z.strictObject(…))` compiles only where the schema says exactly that type, so
 * that neither side has a field or a kind that the other has not.
 */
export const says =
  <T>() =>
  <S extends z.ZodType>(schema: Same<Plain<z.infer<S>>, Plain<T>> extends true ? S : never): S =>
    schema

/**
 * A schema of a row that holds what the core knows of it and more, as titles and versions: `holds<Component>()(…)` compiles only where
 * every field that the core has stands in it just so.
 */
export const holds =
  <T>() =>
  <S extends z.ZodType>(schema: Same<Plain<Pick<z.infer<S>, keyof T & keyof z.infer<S>>>, Plain<T>> extends true ? S : never): S =>
    schema
