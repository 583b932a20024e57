import { answering, guardedPublication } from '../../../../classSite/routes'
import { theClassSite } from '../../../../classSite/running'

/** How much of a content has come: `Upload-Offset`, and whether it is whole, `Upload-Complete`. */
export default defineEventHandler(event =>
  answering(event, async () => {
    const { id } = await guardedPublication(event)
    const arrived = await theClassSite().contents.arrived(id, getRouterParam(event, 'sha') ?? '')
    setHeaders(event, {
      'Upload-Offset': String(arrived?.bytes ?? 0),
      'Upload-Complete': arrived?.whole ? '?1' : '?0',
      'Cache-Control': 'no-store',
    })
    return null
  }),
)
