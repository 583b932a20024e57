/** What only teachers need of an edition: students get it ready made, and do without guides and typesetting. */
export * from './rows'
export * from './mend'
export * from './pace'
export * from './needs'
export * from './stepPicture'
export * from './stepStart'
