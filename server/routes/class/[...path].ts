import { classSitePort } from '../../classSite/running'
import { hostName } from '../../guard'

/** Published pages stood here once; their links go on leading to them. */
export default defineEventHandler(async (event) => {
  const origin = process.env.CLASS_SITE_ORIGIN || `http://${hostName(event.node.req.headers.host)}:${await classSitePort()}`
  return sendRedirect(event, `${origin.replace(/\/$/, '')}/${(event.path.split('?')[0] ?? '').replace(/^\/class\//, '')}`, 301)
})
