export * from './vtt'
export * from './lesson'
