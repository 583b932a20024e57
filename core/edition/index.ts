export * from './edition'
export * from './compile'
export * from './rows'
export * from './mend'
