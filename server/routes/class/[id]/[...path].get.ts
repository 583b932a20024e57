/** Shows a file of a published page to students, in parts where a player asks for parts. */
export default defineEventHandler(async (event) => {
  const id = getRouterParam(event, 'id') ?? ''
  const path = decodeURIComponent(getRouterParam(event, 'path') ?? '') || 'index.html'
  const meta = await readMeta(id)
  if (!meta?.open) throw createError({ statusCode: 404, statusMessage: 'Nothing is published here' })
  const { key, type } = placeOf(id, path)
  const raw = await classStorage().getItemRaw(key)
  if (raw === null || raw === undefined) throw createError({ statusCode: 404, statusMessage: 'No such file' })
  const bytes = Buffer.from(raw as Uint8Array)
  const range = rangeOf(getHeader(event, 'range'), bytes.length)
  setHeaders(event, { 'Content-Type': type, 'Accept-Ranges': 'bytes', 'X-Content-Type-Options': 'nosniff', 'Content-Length': String(range ? range.to - range.from + 1 : bytes.length) })
  if (!range) return bytes
  setResponseStatus(event, 206)
  setHeader(event, 'Content-Range', `bytes ${range.from}-${range.to}/${bytes.length}`)
  return bytes.subarray(range.from, range.to + 1)
})
