import { randomBytes } from 'node:crypto'
import { mkdir, open, readdir, readFile, rename, rm } from 'node:fs/promises'
import { dirname, join, relative, resolve, sep } from 'node:path'
import { createStorage, defineDriver, type Storage } from 'unstorage'
import redis from 'unstorage/drivers/redis'

/** Nothing there: no fault. */
const absent = (error: NodeJS.ErrnoException) => {
  if (error.code === 'ENOENT' || error.code === 'ENOTDIR') return null
  throw error
}

/**
 * A folder in which an item is there whole or not at all: it is written beside its place, made lasting, and moved there.
 * Unlike the drivers that come with unstorage, it says when the disk refuses.
 */
const folderDriver = defineDriver((options: { base: string }) => {
  const base = resolve(options.base)
  const place = (key: string) => join(base, ...key.split(':'))
  const read = (key: string) => readFile(place(key)).catch(absent)
  async function write(key: string, value: string | Uint8Array) {
    const path = place(key)
    const beside = `${path}.${randomBytes(6).toString('hex')}.new`
    await mkdir(dirname(path), { recursive: true })
    try {
      const file = await open(beside, 'w')
      try {
        await file.writeFile(value)
        await file.datasync()
      } finally {
        await file.close()
      }
      await rename(beside, path)
    } catch (error) {
      await rm(beside, { force: true })
      throw error
    }
  }
  return {
    name: 'folder',
    hasItem: async key => (await read(key)) !== null,
    getItem: async key => (await read(key))?.toString('utf8') ?? null,
    getItemRaw: read,
    setItem: write,
    setItemRaw: write,
    removeItem: key => rm(place(key), { force: true }),
    async getKeys(under) {
      const folder = place(under.replace(/:$/, ''))
      const entries = await readdir(folder, { recursive: true, withFileTypes: true }).catch(absent)
      return (entries ?? [])
        .filter(e => e.isFile() && !e.name.endsWith('.new'))
        .map(e => relative(base, join(e.parentPath, e.name)).split(sep).join(':'))
    },
    clear: under => rm(place(under.replace(/:$/, '')), { recursive: true, force: true }),
  }
})

/** Redis with its bytes as they are: the driver alone would keep them as text, a third larger. */
const redisDriver = defineDriver((options: { url?: string | undefined }) => {
  // What is asked for while it is away is refused, not kept waiting.
  const driver = redis({ ...(options.url ? { url: options.url } : {}), base: 'class-site', maxRetriesPerRequest: 2 })
  interface Client {
    getBuffer(key: string): Promise<Buffer | null>
    set(key: string, value: Uint8Array): Promise<unknown>
    on(what: 'error', listener: (error: Error) => void): void
  }
  const client = driver.getInstance!() as unknown as Client
  let said = ''
  client.on('error', error => {
    if (error.message !== said) console.error(`The class site’s storage: ${(said = error.message)}`)
  })
  return {
    ...driver,
    getItemRaw: (key: string) => client.getBuffer(`class-site:${key}`),
    setItemRaw: async (key: string, value: Uint8Array) => {
      await client.set(`class-site:${key}`, value)
    },
  }
})

/**
 * Where the class site keeps what it has: a folder, or (`redis://…`) a Redis that several servers share.
 * @param place a folder's path, or the address of a Redis
 */
export function siteStorage(place: string): Storage {
  return createStorage({
    driver: /^rediss?:/.test(place) ? redisDriver({ url: place }) : folderDriver({ base: place }),
  })
}
