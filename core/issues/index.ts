export * from './issue'
export * from './compare-issues'
