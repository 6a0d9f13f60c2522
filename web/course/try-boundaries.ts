import { isSameSet, type Boundary } from '#core/grades'
import { addChanges, type Change } from '#core/trial'

/** A trial with a set of boundaries over the one in force; back as they are in force there is nothing to try. */
export const withBoundaries = (trial: readonly Change[], boundaries: Boundary[], inForce: Boundary[]): Change[] =>
  isSameSet(boundaries, inForce)
    ? trial.filter((c) => c.kind !== 'bound')
    : addChanges(trial, [{ kind: 'bound', boundaries, over: inForce }])
