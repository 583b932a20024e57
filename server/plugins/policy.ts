import { policyHash } from '../classSite/http'

/** The application's own pages hold a few lines of script in their HTML: the policy names them by their hashes. */
export default defineNitroPlugin(app => {
  let known = { html: '', policy: '' }
  // What no route of the API answers is no page of the application.
  app.hooks.hook('render:before', ({ event }) => {
    if (/^\/api(\/|$|\?)/.test(event.path))
      throw createError({ statusCode: 404, statusMessage: 'There is no such address' })
  })
  // The library that straightens photos makes functions of text when it starts. It runs in a worker of its own, which
  // sees nothing but pictures.
  app.hooks.hook('beforeResponse', event => {
    const policy =
      /^\/_nuxt\/photo\.worker-[\w-]+\.js$/.test(event.path) && getResponseHeader(event, 'content-security-policy')
    if (policy)
      setResponseHeader(
        event,
        'content-security-policy',
        String(policy).replace('script-src ', "script-src 'unsafe-eval' "),
      )
  })
  app.hooks.hook('render:response', (response, { event }) => {
    if (!response.headers) return
    delete response.headers['x-powered-by']
    if (typeof response.body !== 'string') return
    if (known.html !== response.body) {
      const inline = [...response.body.matchAll(/<script(?![^>]*\ssrc=)[^>]*>([\s\S]*?)<\/script>/g)].map(
        m => `'${policyHash(m[1]!)}'`,
      )
      const policy = String(getResponseHeader(event, 'content-security-policy') ?? '')
      known = {
        html: response.body,
        policy: policy.replace(/script-src /, `script-src ${[...new Set(inline)].join(' ')} `),
      }
    }
    response.headers['content-security-policy'] = known.policy
  })
})
