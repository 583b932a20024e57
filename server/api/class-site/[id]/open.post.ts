import { answering, guardedPublication } from '../../../classSite/routes'
import { classSiteOrigin, theClassSite } from '../../../classSite/running'

/** Shows a publication to students: → `{link}`. */
export default defineEventHandler(event =>
  answering(event, async () => {
    const { id, meta } = await guardedPublication(event)
    await theClassSite().open(id, meta)
    return { link: `${await classSiteOrigin(event.node.req.headers.host)}/${id}/` }
  }),
)
