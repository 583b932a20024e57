export * from './geometry'
