export * from './boundaries'
export * from './grade-certainty'
export * from './worth-reading'
