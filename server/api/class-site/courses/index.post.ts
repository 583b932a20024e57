import { readJson } from '../../../body'
import { answering, needsMachineOrKey } from '../../../classSite/routes'
import { classPageLink, theClassSite } from '../../../classSite/running'

/** The class page of a course and teacher, made where there is none yet: `{name, author}` → `{id, link}`. */
export default defineEventHandler(event =>
  answering(event, async () => {
    needsMachineOrKey(event)
    const id = await theClassSite().courses.open(await readJson(event.node.req))
    return { id, link: await classPageLink(event.node.req.headers.host, id) }
  }),
)
