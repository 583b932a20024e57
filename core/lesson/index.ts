export * from './form'
export * from './source'
export * from './paintStep'
