import canonicalize from 'canonicalize'
import type { WrittenScript } from '#core/trial'
import type { TableSince } from '#contract'

/** Whether what was written since is what was foretold of marks on their way, and nothing else. */
export const isAsForetold = ({ cells }: { cells: readonly WrittenScript[] }, written: NonNullable<TableSince>): boolean =>
  written.plan === null && canonicalize(written.cells) === canonicalize(cells)
