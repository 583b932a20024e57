import { answering, guardedPublication } from '../../../../classSite/routes'
import { theClassSite } from '../../../../classSite/running'

/** Puts a message away for good. */
export default defineEventHandler(event =>
  answering(event, async () => {
    const { id } = await guardedPublication(event)
    await theClassSite().messages.remove(id, getRouterParam(event, 'message') ?? '')
    return null
  }),
)
