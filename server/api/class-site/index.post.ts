import { z } from 'zod'
import { readJson } from '../../body'
import { Refusal } from '../../classSite/refusal'
import { answering, needsKey } from '../../classSite/routes'
import { theClassSite } from '../../classSite/running'

const Begin = z.object({ title: z.string().max(300) })

/** Begins a publication: `{title}` with the publishing key → `{id, key, player}`. */
export default defineEventHandler(event =>
  answering(event, async () => {
    needsKey(event)
    const body = Begin.safeParse(await readJson(event.node.req))
    if (!body.success) throw new Refusal(400, 'A title is needed')
    const site = theClassSite()
    return { ...(await site.begin(body.data.title)), player: site.player.script }
  }),
)
