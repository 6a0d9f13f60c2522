export * from './methods'
export * from './adjustments'
export * from './adjustment-effect'
export * from './compare-results'
