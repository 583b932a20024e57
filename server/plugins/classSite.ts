import { join } from 'node:path'
import { policyHash, startClassSite } from '../classSite/running'
import { dataFolder, listenHost } from '../data'
import { publishingKey } from '../publishingKey'

/**
 * Starts the class site beside the application. Its port is the application's and one, unless CLASS_SITE_PORT names
 * another. CLASS_SITE_STORAGE names a Redis (`redis://…`) instead of a folder beside the application.
 */
export default defineNitroPlugin(async app => {
  if (import.meta.prerender) return
  const asset = async (name: string) =>
    policyHash(Buffer.from((await useStorage('assets:student').getItemRaw(name)) as Uint8Array).toString('utf8'))
  const port = Number(process.env.CLASS_SITE_PORT || (Number(process.env.NITRO_PORT || process.env.PORT) || 3000) + 1)
  publishingKey(dataFolder())
  const old = join(dataFolder(), 'class-site')
  const running = startClassSite({
    place: process.env.CLASS_SITE_STORAGE || old,
    old,
    player: { script: await asset('built/player.js'), style: await asset('built/page.css') },
    port,
    host: listenHost(),
  })
  app.hooks.hook('close', () => {
    running.server.close()
    return running.site.plays.settle()
  })
})
