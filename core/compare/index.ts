export { describe, quantile, type Description } from './describe'
export * from './histogram'
export * from './compare-groups'
export * from './density'
