/** What the pad is to show. */
export default defineEventHandler(async (event) => {
  const state = PadState.safeParse(JSON.parse(await readRawBody(event) || '{}'))
  if (!state.success) throw createError({ statusCode: 400, statusMessage: 'A state is needed' })
  guardedPad(getQuery(event).key).tell(state.data)
  return null
})
