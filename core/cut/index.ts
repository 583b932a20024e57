export * from './ledger'
export * from './cut'
export * from './edit'
export * from './tighten'
