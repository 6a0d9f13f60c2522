export * from './issue'
export * from './counted-mark'
export * from './compare-issues'
export * from './result-in-words'
