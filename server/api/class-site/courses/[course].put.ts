import { readJson } from '../../../body'
import { answering, needsMachineOrKey } from '../../../classSite/routes'
import { theClassSite } from '../../../classSite/running'

/** Another name for a class page, whose address stays: `{name, author}`. */
export default defineEventHandler(event =>
  answering(event, async () => {
    needsMachineOrKey(event)
    await theClassSite().courses.rename(getRouterParam(event, 'course') ?? '', await readJson(event.node.req))
    setResponseStatus(event, 204)
    return null
  }),
)
