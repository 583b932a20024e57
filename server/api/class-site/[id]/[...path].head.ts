import { answering, guardedPublication, pathOf } from '../../../classSite/routes'
import { theClassSite } from '../../../classSite/running'

/** How much of a file has come: `Upload-Offset`, and whether it is whole, `Upload-Complete`. */
export default defineEventHandler(event =>
  answering(event, async () => {
    const { id } = await guardedPublication(event)
    const { bytes, whole } = await theClassSite().received(id, pathOf(event))
    setHeaders(event, {
      'Upload-Offset': String(bytes),
      'Upload-Complete': whole ? '?1' : '?0',
      'Cache-Control': 'no-store',
    })
    return null
  }),
)
