import { z } from 'zod'
import { ContentName } from '../../../../core/publish/version'
import { readJson } from '../../../body'
import { Refusal } from '../../../classSite/refusal'
import { answering, guardedPublication } from '../../../classSite/routes'
import { theClassSite } from '../../../classSite/running'

const MOST = 1024 ** 2
const Asked = z.object({ contents: z.array(ContentName).max(10_000) })

/** Which of these contents the site does not have: `{contents}` → `{missing}`. */
export default defineEventHandler(event =>
  answering(event, async () => {
    const { id } = await guardedPublication(event)
    const asked = Asked.safeParse(await readJson(event.node.req, MOST))
    if (!asked.success) throw new Refusal(400, 'A list of contents is needed')
    return { missing: await theClassSite().contents.missing(id, asked.data.contents) }
  }),
)
