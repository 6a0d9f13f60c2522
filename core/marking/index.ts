export * from './cell-value'
export * from './ways'
