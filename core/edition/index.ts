export * from './edition'
