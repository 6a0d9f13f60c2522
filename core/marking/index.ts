export * from './cell-value'
export * from './ways'
export * from './ways/markings'
