/** Takes one file of a publication that is not open yet. */
export default defineEventHandler(async (event) => {
  const id = getRouterParam(event, 'id') ?? ''
  const meta = await guardedMeta(id, getHeader(event, 'x-publication-key'))
  if (meta.open) throw createError({ statusCode: 409, statusMessage: 'Already published' })
  if (Number(getHeader(event, 'content-length') ?? 0) > MOST_BYTES) throw createError({ statusCode: 413, statusMessage: 'Too large' })
  const { key } = placeOf(id, decodeURIComponent(getRouterParam(event, 'path') ?? ''))
  await classStorage().setItemRaw(key, await readRawBody(event, false) ?? Buffer.alloc(0))
  return { ok: true }
})
