export * from './cell-value'
export * from './why-no-mark'
export * from './ways'
export * from './ways/markings'
