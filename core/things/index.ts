export * from './draw'
export * from './transform'
export * from './traces'
export * from './style'
