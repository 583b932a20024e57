import { answering, needsMachineOrKey } from '../../../classSite/routes'
import { classPageLink, theClassSite } from '../../../classSite/running'

/** All class pages of this site: → `{courses: [{id, name, author, link}]}`. */
export default defineEventHandler(event =>
  answering(event, async () => {
    needsMachineOrKey(event)
    setHeader(event, 'Cache-Control', 'no-store')
    const courses = await theClassSite().courses.all()
    const { host } = event.node.req.headers
    return {
      courses: await Promise.all(
        courses.map(async ({ id, name, author }) => ({ id, name, author, link: await classPageLink(host, id) })),
      ),
    }
  }),
)
