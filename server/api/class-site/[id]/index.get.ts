import { answering, guardedPublication } from '../../../classSite/routes'
import { classSiteOrigin, theClassSite } from '../../../classSite/running'

/** What stands under a link: → `{link, current, versions, counts, course}`; `course`: the class page, null for none, or not said yet. */
export default defineEventHandler(event =>
  answering(event, async () => {
    const { id, head } = await guardedPublication(event)
    setHeader(event, 'Cache-Control', 'no-store')
    return {
      link: `${await classSiteOrigin(event.node.req.headers.host)}/${id}/`,
      current: head.current,
      versions: head.versions.map(({ id: version, at, bytes }) => ({ version, at, bytes })),
      counts: await theClassSite().plays.of(id),
      ...(head.course === undefined ? {} : { course: head.course }),
    }
  }),
)
