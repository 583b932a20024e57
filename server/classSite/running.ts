import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { hostName } from '../guard'
import { classSiteListener } from './serve'
import { siteStorage } from './drivers'
import { ClassSite } from './store'

/** The class site of this process, and the address of its own under which students find it. */
interface RunningSite {
  site: ClassSite
  server: Server
  ready: Promise<number>
}
let running: RunningSite | null = null

export interface SiteOptions {
  /** Where publications are kept: a folder, or the address of a Redis that several servers share. */
  place: string
  /** Folder of publications that were made before there were versions. */
  old: string
  player: ClassSite['player']
  port: number
  host: string
}

/** Starts the class site on a port of its own; where that is taken, on a free one, and says so. */
export function startClassSite({ place, old, player, port, host }: SiteOptions): RunningSite {
  const site = new ClassSite(siteStorage(place), player)
  const server = createServer({ requestTimeout: 30_000 }, classSiteListener(site, old))
  const ready = new Promise<number>((resolve, reject) => {
    server.once('error', (error: NodeJS.ErrnoException) => {
      if (error.code !== 'EADDRINUSE') return reject(error)
      console.warn(`Port ${port} is taken: students find the class site on another one until this is started again.`)
      server.once('error', reject)
      server.listen(0, host)
    })
    server.on('listening', () => resolve((server.address() as AddressInfo).port))
    server.listen(port, host)
  })
  void ready
    .then(() => site.sweep())
    .catch((error: unknown) => console.error('The class site could not be started:', error))
  setInterval(() => {
    site.sweep().catch((error: unknown) => console.error('The class site could not be swept:', error))
  }, 3_600_000).unref()
  running = { site, server, ready }
  return running
}

export function theClassSite(): ClassSite {
  if (!running) throw new Error('the class site is not running')
  return running.site
}

/**
 * The origin under which students find the class site: the one that CLASS_SITE_ORIGIN names, else the other port of the
 * host that was asked.
 * @param host as the request names it (its Host header)
 */
export async function classSiteOrigin(host: string | undefined): Promise<string> {
  if (!running) throw new Error('the class site is not running')
  const origin = process.env.CLASS_SITE_ORIGIN || `http://${hostName(host)}:${await running.ready}`
  return origin.replace(/\/$/, '')
}

/** The address of a class page. @param host as the request names it (its Host header) */
export const classPageLink = async (host: string | undefined, course: string): Promise<string> =>
  `${await classSiteOrigin(host)}/course/${course}/`
