export * from './ledger'
export * from './cut'
