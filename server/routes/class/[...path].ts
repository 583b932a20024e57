import { classSiteOrigin } from '../../classSite/running'

/** Published pages stood here once; their links go on leading to them. */
export default defineEventHandler(async event => {
  const path = (event.path.split('?')[0] ?? '').replace(/^\/class\//, '')
  return sendRedirect(event, `${await classSiteOrigin(event.node.req.headers.host)}/${path}`, 301)
})
