/** Shows a publication to students: → `{link}`. */
export default defineEventHandler(async (event) => {
  const id = getRouterParam(event, 'id') ?? ''
  const meta = await guardedMeta(id, getHeader(event, 'x-publication-key'))
  await openPublication(id, meta)
  return { link: `/class/${id}/` }
})
