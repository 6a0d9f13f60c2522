import canonicalize from 'canonicalize'
import type { WrittenScript } from '#core/trial'
import type { TableSince } from '#contract'

/**
 * Whether what was written since a version is what was foretold of marks on their way, and nothing else.
 * @param foretold scripts as they would be, on top of a version
 */
export const isAsForetold = (
  foretold: { on: number; cells: readonly WrittenScript[] },
  written: NonNullable<TableSince> & { from: number },
): boolean => written.plan === null && written.from <= foretold.on && canonicalize(written.cells) === canonicalize(foretold.cells)
