import { z } from 'zod'
import { StateDate } from '../../../../core/publish/version'
import { readJson } from '../../../body'
import { Refusal } from '../../../classSite/refusal'
import { answering, guardedPublication, versionBefore } from '../../../classSite/routes'
import { theClassSite } from '../../../classSite/running'

const Wanted = z.object({ version: z.string().max(16).nullable(), dates: z.array(StateDate).max(200).optional() })

/**
 * Shows an earlier version again, or, with null, none; `If-Match` names what students have now: `{version, dates?}` →
 * `{version}`, another one where its states get other dates.
 */
export default defineEventHandler(event =>
  answering(event, async () => {
    const { id } = await guardedPublication(event)
    const wanted = Wanted.safeParse(await readJson(event.node.req))
    if (!wanted.success) throw new Refusal(400, 'A version is needed')
    const { version, dates } = wanted.data
    return { version: await theClassSite().show(id, version, versionBefore(event), dates) }
  }),
)
