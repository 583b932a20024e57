import { answering, guardedPublication } from '../../../classSite/routes'
import { theClassSite } from '../../../classSite/running'

/** Drops a publication that was begun and is not wanted any more. */
export default defineEventHandler(event =>
  answering(event, async () => {
    const { id } = await guardedPublication(event)
    await theClassSite().drop(id)
    return null
  }),
)
