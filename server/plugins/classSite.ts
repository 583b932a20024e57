import { join } from 'node:path'
import { policyHash } from '../classSite/http'
import { startClassSite } from '../classSite/running'
import { dataFolder, listenHost } from '../data'
import { publishingKey } from '../publishingKey'

/**
 * Starts the class site beside the application. Its port is the application's and one, unless CLASS_SITE_PORT names
 * another. CLASS_SITE_STORAGE names a Redis (`redis://…`) instead of a folder beside the application.
 */
export default defineNitroPlugin(app => {
  if (import.meta.prerender) return
  const started = start()
  started.catch((error: unknown) => console.error('The class site could not be started:', error))
  // Nothing is answered before all of it is there: its key is written, its pages are served.
  app.hooks.hook('request', () => started.then(() => {}))
  app.hooks.hook('close', async () => {
    const { server, site } = await started
    server.close()
    await site.plays.settle()
  })
})

async function start() {
  const text = async (name: string) =>
    Buffer.from((await useStorage('assets:student').getItemRaw(name)) as Uint8Array).toString('utf8')
  const asset = async (name: string) => policyHash(await text(name))
  const port = Number(process.env.CLASS_SITE_PORT || (Number(process.env.NITRO_PORT || process.env.PORT) || 3000) + 1)
  publishingKey(dataFolder())
  const old = join(dataFolder(), 'class-site')
  const running = startClassSite({
    place: process.env.CLASS_SITE_STORAGE || old,
    old,
    player: {
      script: [await asset('built/player.js'), await asset('built/aids.js')].join(' '),
      style: await asset('built/page.css'),
      keep: await text('built/keep.js'),
      classPage: {
        script: await text('built/classPage.js'),
        style: await text('built/classPage.css'),
        icons: await text('built/icons.svg'),
        face: async name => (await useStorage('assets:fonts').getItemRaw<Uint8Array>(name)) ?? null,
      },
    },
    port,
    host: listenHost(),
  })
  await running.ready
  return running
}
