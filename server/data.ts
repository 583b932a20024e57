import { resolve } from 'node:path'

/** Where the server keeps what lasts: publications and the publishing key. */
export const dataFolder = () => resolve(process.env.ORTHOGRAPH_DATA || '.data')

/** The address that the server listens on: the loopback, unless told otherwise. */
export const listenHost = () => process.env.NITRO_HOST || process.env.HOST || '127.0.0.1'

/** Whether only this machine can reach the server. */
export const isOnLoopback = () => ['localhost', '127.0.0.1', '::1'].includes(listenHost())
