export * from './exact'
export * from './expression'
export * from './notation'
export * from './byHand'
