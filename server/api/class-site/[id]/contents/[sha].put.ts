import { answering, guardedPublication, partOf } from '../../../../classSite/routes'
import { theClassSite } from '../../../../classSite/running'

/** Takes a content under its SHA-256, at once or (with Content-Range) part by part: → `{bytes, whole}`. */
export default defineEventHandler(event =>
  answering(event, async () => {
    const { id } = await guardedPublication(event)
    const site = theClassSite(),
      { req } = event.node
    req.setTimeout(site.limits.idleMs, () => req.destroy())
    return site.receive(id, getRouterParam(event, 'sha') ?? '', req, partOf(event, site.limits.fileBytes))
  }),
)
