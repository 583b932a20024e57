import { z } from 'zod'

const Begin = z.object({ title: z.string().max(300) })

/** Begins a publication: `{title}` → `{id, key}`. */
export default defineEventHandler(async (event) => {
  const body = Begin.safeParse(JSON.parse(await readRawBody(event) || '{}'))
  if (!body.success) throw createError({ statusCode: 400, statusMessage: 'A title is needed' })
  return beginPublication(body.data.title)
})
