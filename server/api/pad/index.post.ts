import { z } from 'zod'
import { readJson } from '../../body'
import { Refusal } from '../../classSite/refusal'
import { answering, needsMachineOrKey } from '../../classSite/routes'

const On = z.object({ address: z.string().max(64).optional(), key: z.string().max(64).optional() })

/** Turns the pad on: `{address?, key?}` → `{code, key, addresses}`. */
export default defineEventHandler(event =>
  answering(event, async () => {
    needsMachineOrKey(event)
    const body = On.safeParse(await readJson(event.node.req))
    if (!body.success) throw new Refusal(400, 'An address is needed')
    return openPad(body.data.address, body.data.key)
  }),
)
