export * from './corners'
