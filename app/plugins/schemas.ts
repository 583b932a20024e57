import { z } from 'zod'

/**
 * Parsers that are made of text may not run under the application's policy; looking whether they may is a fault of its
 * own there.
 */
export default defineNuxtPlugin({
  name: 'schemas',
  enforce: 'pre',
  setup() {
    z.config({ jitless: true })
  },
})
