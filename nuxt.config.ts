import { join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { notePackages, writeNotice } from './scripts/licences.mjs'

const core = fileURLToPath(new URL('./core', import.meta.url))

/** Cross-origin isolation lets workers use precise clocks; nothing is ever fetched from another host. */
const isolation = {
  'Cross-Origin-Opener-Policy': 'same-origin',
  'Cross-Origin-Embedder-Policy': 'require-corp',
  'Cross-Origin-Resource-Policy': 'same-origin',
}

/**
 * What the application may do: its own files and what it made itself, nothing else. The few lines of script in its HTML
 * are named by
 * their hashes where the page is answered (server/plugins/policy.ts).
 */
const policy = (scripts: string) =>
  [
    `default-src 'self'`,
    `script-src ${scripts}`,
    `style-src 'self' 'unsafe-inline'`,
    `img-src 'self' data: blob:`,
    `media-src 'self' data: blob:`,
    `font-src 'self' data:`,
    `connect-src 'self' data: blob:`,
    `worker-src 'self' blob:`,
    `object-src 'none'`,
    `base-uri 'none'`,
    `form-action 'self'`,
    `frame-ancestors 'none'`,
  ].join('; ')

const headers = {
  ...isolation,
  'Content-Security-Policy': policy(`'self' 'wasm-unsafe-eval'`),
  'X-Frame-Options': 'DENY',
  'X-Content-Type-Options': 'nosniff',
  'Referrer-Policy': 'no-referrer',
  'Permissions-Policy': 'microphone=(self), camera=(self), geolocation=(), payment=(), usb=()',
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
    clientBundle: {
      scan: true,
      icons: [
        'lasso',
        'highlighter',
        'type',
        'grid-3x3',
        'shapes',
        'list-checks',
        'route',
        'flashlight',
        'mouse-pointer-2',
        'zoom-in',
        'underline',
        'strikethrough',
        'circle',
        'square',
        'pen-line',
        'zap',
      ].map(name => `lucide:${name}`),
      sizeLimitKb: 512,
    },
  },
  app: {
    head: {
      title: 'Orthograph',
      htmlAttrs: { lang: 'en' },
      link: [{ rel: 'icon', type: 'image/svg+xml', href: '/mark.svg' }],
    },
  },
  alias: { '#core': core },
  // What ships to browsers is listed once all of it is there.
  hooks: {
    'nitro:build:public-assets': nitro =>
      writeNotice(['client', 'workers'], join(nitro.options.output.publicDir, 'licences.txt')),
  },
  runtimeConfig: { public: { demo: false } },
  routeRules: { '/**': { headers } },
  nitro: {
    serverAssets: ['pad', 'student', 'public/fonts'].map(dir => ({
      baseName: dir.split('/').pop()!,
      dir: fileURLToPath(new URL(`./${dir}`, import.meta.url)),
    })),
    compressPublicAssets: { gzip: true, brotli: false },
    rollupConfig: {
      plugins: [
        notePackages('server', () =>
          writeNotice(['server'], fileURLToPath(new URL('./.output/server/licences.txt', import.meta.url))),
        ),
      ],
    },
  },
  vite: {
    server: { headers: isolation },
    plugins: [notePackages('client')],
    worker: { format: 'es', plugins: () => [notePackages('workers')] },
    optimizeDeps: { exclude: ['pdfjs-dist'] },
  },
  typescript: {
    strict: true,
    tsConfig: {
      include: ['../core/**/*', '../workers/**/*', '../bench/worker.ts', '../tests/stores/**/*', '../student/**/*'],
    },
    nodeTsConfig: {
      compilerOptions: { paths: { '#core/*': ['../core/*'] } },
      include: [
        '../core/**/*',
        '../demo/**/*',
        '../scripts/**/*',
        '../tests/**/*',
        '../bench/run.ts',
        './types/nitro-imports.d.ts',
        '../*.ts',
      ],
      exclude: ['../tests/stores/**/*'],
    },
  },
  eslint: { config: { stylistic: false } },
})
