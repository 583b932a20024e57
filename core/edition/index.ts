export * from './edition'
export * from './compile'
