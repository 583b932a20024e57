export * from './read'
export * from './units'
