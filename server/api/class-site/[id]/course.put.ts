import { z } from 'zod'
import { readJson } from '../../../body'
import { Refusal } from '../../../classSite/refusal'
import { answering, guardedPublication, needsMachineOrKey } from '../../../classSite/routes'
import { theClassSite } from '../../../classSite/running'

const Wanted = z.object({ course: z.string().max(16).nullable() })

/** Puts a publication on a class page, or, with null, on none: `{course}`. */
export default defineEventHandler(event =>
  answering(event, async () => {
    needsMachineOrKey(event)
    const { id } = await guardedPublication(event)
    const wanted = Wanted.safeParse(await readJson(event.node.req))
    if (!wanted.success) throw new Refusal(400, 'A class page is needed')
    await theClassSite().list(id, wanted.data.course)
    setResponseStatus(event, 204)
    return null
  }),
)
