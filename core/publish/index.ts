export * from './names'
export * from './page'
export * from './folioFile'
export * from './handIn'
