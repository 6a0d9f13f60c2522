export * from './cell-value'
