export * from './read'
