import { isOnLoopback } from '../data'
import { isOwnName, isOwnOrigin } from '../guard'

/**
 * What holds for every request: on the loopback only this machine's own names are answered (another name that leads
 * here is
 * somebody else's page asking); what changes something comes from the application's own pages; an address that cannot
 * be read is no address.
 */
export default defineEventHandler(event => {
  const { headers, method, url } = event.node.req
  if (isOnLoopback() && !isOwnName(headers.host))
    throw createError({ statusCode: 421, statusMessage: 'This name is not served here' })
  if (method !== 'GET' && method !== 'HEAD' && !isOwnOrigin(headers))
    throw createError({ statusCode: 403, statusMessage: 'Not from another page' })
  try {
    decodeURI((url ?? '/').split('?')[0]!)
  } catch {
    throw createError({ statusCode: 400, statusMessage: 'This address is not written rightly' })
  }
  // The server gives up on a request after five minutes; a video over a slow line takes longer. Uploads have limits of
  // their own.
  const { server } = event.node.req.socket as { server?: { requestTimeout: number } }
  if (server) server.requestTimeout = 0
})
