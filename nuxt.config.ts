import { fileURLToPath } from 'node:url'

const core = fileURLToPath(new URL('./core', import.meta.url))

/** Cross-origin isolation lets workers use precise clocks; nothing is ever fetched from another host. */
const isolation = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'Cross-Origin-Resource-Policy': 'same-origin',
}

export default defineNuxtConfig({
  compatibilityDate: '2026-11-01',
  ssr: false,
  devtools: { enabled: false },
  telemetry: false,
  modules: ['@nuxt/ui', '@pinia/nuxt', '@vueuse/nuxt', '@nuxt/eslint'],
  components: [{ path: '~/components', pathPrefix: false }],
  css: ['~/assets/css/main.css'],
  ui: { fonts: false },
  icon: {
    provider: 'none',
    fallbackToApi: false,
    serverBundle: false,
    clientBundle: { scan: true, icons: ['lasso', 'highlighter', 'type', 'grid-3x3', 'shapes', 'list-checks', 'route', 'flashlight', 'mouse-pointer-2', 'zoom-in', 'underline', 'strikethrough', 'circle', 'square', 'pen-line', 'zap'].map(name => `lucide:${name}`), sizeLimitKb: 512 },
  },
  app: {
    head: {
      title: 'Orthograph',
      htmlAttrs: { lang: 'en' },
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/mark.svg' }],
    },
  },
  alias: { '#core': core },
  runtimeConfig: { public: { demo: false } },
  routeRules: { '/**': { headers: isolation } },
  nitro: {
    serverAssets: [{ baseName: 'pad', dir: fileURLToPath(new URL('./pad', import.meta.url)) }],
    storage: { classSite: { driver: 'fs', base: './.data/class-site' } },
    devStorage: { classSite: { driver: 'fs', base: './.data/class-site' } },
  },
  vite: {
    server: { headers: isolation },
    worker: { format: 'es' },
    optimizeDeps: { exclude: ['pdfjs-dist'] },
  },
  typescript: {
    strict: true,
    tsConfig: { include: ['../core/**/*', '../workers/**/*', '../bench/worker.ts'] },
    nodeTsConfig: { compilerOptions: { paths: { '#core/*': ['../core/*'] } }, include: ['../core/**/*', '../demo/**/*', '../scripts/**/*', '../tests/**/*', '../bench/run.ts', './types/nitro-imports.d.ts', '../*.ts'] },
  },
  eslint: { config: { stylistic: false } },
})
