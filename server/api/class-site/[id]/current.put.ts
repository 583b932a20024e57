import { z } from 'zod'
import { readJson } from '../../../body'
import { Refusal } from '../../../classSite/refusal'
import { answering, guardedPublication, versionBefore } from '../../../classSite/routes'
import { theClassSite } from '../../../classSite/running'

const Wanted = z.object({ version: z.string().max(16).nullable() })

/** Shows an earlier version again, or, with null, none; `If-Match` names what students have now: `{version}`. */
export default defineEventHandler(event =>
  answering(event, async () => {
    const { id } = await guardedPublication(event)
    const wanted = Wanted.safeParse(await readJson(event.node.req))
    if (!wanted.success) throw new Refusal(400, 'A version is needed')
    await theClassSite().show(id, wanted.data.version, versionBefore(event))
    return null
  }),
)
