/// <reference lib="webworker" />
/**
 * Serves a lesson that was kept where there is no line. The page is asked for first, so that a new version is seen at
 * once; what stands beside it is named by its content, so that no version can mix with another. The class site gives this
 * script itself: none of a publication's own runs here.
 */
const worker = self as unknown as ServiceWorkerGlobalScope
const scope = new URL(worker.registration.scope)

worker.addEventListener('install', () => void worker.skipWaiting())
worker.addEventListener('activate', e => e.waitUntil(worker.clients.claim()))
worker.addEventListener('fetch', e => {
  const { request } = e
  const { origin, pathname } = new URL(request.url)
  if (request.method !== 'GET' || origin !== scope.origin || !pathname.startsWith(scope.pathname)) return
  e.respondWith(request.mode === 'navigate' ? page(request) : file(request, pathname))
})

async function page(request: Request): Promise<Response> {
  try {
    return await fetch(request)
  } catch (error) {
    const kept = await caches.match(scope.pathname)
    if (!kept) throw error
    return kept
  }
}

async function file(request: Request, pathname: string): Promise<Response> {
  const kept = await caches.match(pathname)
  return kept ? ranged(kept, request.headers.get('range')) : fetch(request)
}

/** A part of what is kept, as players of sound ask for it (RFC 9110, 14.2). */
async function ranged(kept: Response, range: string | null): Promise<Response> {
  const [, first, last] = /^bytes=(\d+)-(\d*)$/.exec(range ?? '') ?? []
  if (first === undefined) return kept
  const body = await kept.blob()
  const from = Number(first)
  const to = Math.min(body.size - 1, last ? Number(last) : body.size - 1)
  if (from > to) return new Response(null, { status: 416, headers: { 'Content-Range': `bytes */${body.size}` } })
  return new Response(body.slice(from, to + 1), {
    status: 206,
    headers: {
      'Content-Type': kept.headers.get('content-type') ?? '',
      'Content-Length': String(to - from + 1),
      'Content-Range': `bytes ${from}-${to}/${body.size}`,
    },
  })
}
