export * from './issue'
export * from './compare-issues'
export * from './result-in-words'
