export * from './place'
export * from './resample'
export * from './peaks'
