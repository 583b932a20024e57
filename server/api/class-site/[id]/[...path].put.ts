import { answering, guardedPublication, pathOf, pieceOf } from '../../../classSite/routes'
import { theClassSite } from '../../../classSite/running'

/**
 * Takes one file of a publication that is not open yet, at once or (with Content-Range) piece by piece: → `{bytes,
 * whole}`.
 */
export default defineEventHandler(event =>
  answering(event, async () => {
    const { id } = await guardedPublication(event)
    const site = theClassSite(),
      { req } = event.node
    req.setTimeout(site.limits.idleMs, () => req.destroy())
    return site.receive(id, pathOf(event), req, pieceOf(event, site.limits.fileBytes))
  }),
)
