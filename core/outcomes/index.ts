export * from './outcome-standing'
export * from './standings-table'
export * from './evidence'
export * from './all-results'
