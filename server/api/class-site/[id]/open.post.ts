import { answering, guardedPublication } from '../../../classSite/routes'
import { classSitePort, theClassSite } from '../../../classSite/running'
import { hostName } from '../../../guard'

/** Shows a publication to students: → `{link}`. Where the site stands for others is named by CLASS_SITE_ORIGIN, else it is this host's other port. */
export default defineEventHandler(event => answering(event, async () => {
  const { id, meta } = await guardedPublication(event)
  await theClassSite().open(id, meta)
  const origin = process.env.CLASS_SITE_ORIGIN || `http://${hostName(event.node.req.headers.host)}:${await classSitePort()}`
  return { link: `${origin.replace(/\/$/, '')}/${id}/` }
}))
