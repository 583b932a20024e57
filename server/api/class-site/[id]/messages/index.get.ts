import { answering, guardedPublication } from '../../../../classSite/routes'
import { theClassSite } from '../../../../classSite/running'

/** What students wrote to their teacher: → `{messages: {id, at, text}[]}`. */
export default defineEventHandler(event =>
  answering(event, async () => {
    const { id } = await guardedPublication(event)
    setHeader(event, 'Cache-Control', 'no-store')
    return { messages: await theClassSite().messages.all(id) }
  }),
)
