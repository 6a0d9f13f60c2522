export * from './boundaries'
