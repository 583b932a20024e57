export * from './scene'
export * from './canvas'
export * from './svg'
export * from './turnCard'
