import { readJson } from '../../../body'
import { answering, guardedPublication, versionBefore } from '../../../classSite/routes'
import { classSiteOrigin, theClassSite } from '../../../classSite/running'

/** A version lists every file of it, bytes. */
const MOST = 4 * 1024 ** 2

/** Makes a version of what was sent and shows it to students; `If-Match` names the one before: → `{version, link}`. */
export default defineEventHandler(event =>
  answering(event, async () => {
    const { id } = await guardedPublication(event)
    const made = await theClassSite().publish(id, await readJson(event.node.req, MOST), versionBefore(event))
    return { ...made, link: `${await classSiteOrigin(event.node.req.headers.host)}/${id}/` }
  }),
)
