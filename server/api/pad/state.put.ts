import { readJson } from '../../body'
import { Refusal } from '../../classSite/refusal'
import { answering } from '../../classSite/routes'

/** What the pad is to show. */
export default defineEventHandler(event =>
  answering(event, async () => {
    const pad = guardedPad(getQuery(event).key)
    const state = PadState.safeParse(await readJson(event.node.req))
    if (!state.success) throw new Refusal(400, 'A state is needed')
    pad.tell(state.data)
    return null
  }),
)
