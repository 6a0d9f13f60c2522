/** Whom the list is narrowed to, beside section and name. */
export type Who =
  { kind: 'all' } | { kind: 'stretch'; from: number; to: number } | { kind: 'none' } | { kind: 'group'; id: string } | { kind: 'moved' }
