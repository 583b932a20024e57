import { createHash, randomBytes, timingSafeEqual } from 'node:crypto'
import type { H3Event } from 'h3'
import { z } from 'zod'
import { isSafePath } from '../../core/folio/archive'

/**
 * The class site that ships with the application: it takes a publication file by file and shows it under a link. What it
 * keeps goes through Nitro's storage (mount `classSite`), so that a real store can be put in its place.
 */
export const MOST_BYTES = 2 * 1024 ** 3
const Meta = z.object({ title: z.string().max(300), keyHash: z.string(), open: z.boolean(), createdAt: z.string() })
type Meta = z.infer<typeof Meta>

/** File types that a publication may hold, by ending; anything else is refused. */
const TYPES: Record<string, string> = {
  html: 'text/html; charset=utf-8', mp4: 'video/mp4', webm: 'video/webm', vtt: 'text/vtt; charset=utf-8', png: 'image/png', pdf: 'application/pdf',
}

export const classStorage = () => useStorage('classSite')
const hash = (key: string) => createHash('sha256').update(key).digest('hex')
const isId = (id: string) => /^[a-f0-9]{16}$/.test(id)

/** Begins a publication. @returns its id, and the key that allows to add files */
export async function beginPublication(title: string): Promise<{ id: string, key: string }> {
  const id = randomBytes(8).toString('hex')
  const key = randomBytes(24).toString('base64url')
  const meta: Meta = { title, keyHash: hash(key), open: false, createdAt: new Date().toISOString() }
  await classStorage().setItem(`${id}:meta.json`, meta)
  return { id, key }
}

export async function readMeta(id: string): Promise<Meta | null> {
  if (!isId(id)) return null
  const meta = Meta.safeParse(await classStorage().getItem(`${id}:meta.json`))
  return meta.success ? meta.data : null
}

/** The publication that this key may change. @throws 404, 403 */
export async function guardedMeta(id: string, key: string | undefined): Promise<Meta> {
  const meta = await readMeta(id)
  if (!meta) throw createError({ statusCode: 404, statusMessage: 'No such publication' })
  const given = Buffer.from(hash(key ?? ''))
  if (!timingSafeEqual(given, Buffer.from(meta.keyHash))) throw createError({ statusCode: 403, statusMessage: 'Wrong key' })
  return meta
}

export async function openPublication(id: string, meta: Meta): Promise<void> {
  await classStorage().setItem(`${id}:meta.json`, { ...meta, open: true })
}

/** Where a file of a publication is kept, and its type. @throws 400 for a path or type that is not allowed */
export function placeOf(id: string, path: string): { key: string, type: string } {
  const type = TYPES[path.split('.').pop()?.toLowerCase() ?? '']
  if (!isSafePath(path) || !type) throw createError({ statusCode: 400, statusMessage: 'This file is not allowed' })
  // Storage keys know only plain characters; the name is kept apart from the place.
  return { key: `${id}:files:${hash(path)}`, type }
}

/** The bytes that a Range header asks for, or null for the whole. @throws 416 */
export function rangeOf(header: string | undefined, size: number): { from: number, to: number } | null {
  const match = /^bytes=(\d*)-(\d*)$/.exec(header ?? '')
  if (!match || (!match[1] && !match[2])) return null
  const from = match[1] ? Number(match[1]) : Math.max(0, size - Number(match[2]))
  const to = match[1] && match[2] ? Math.min(Number(match[2]), size - 1) : size - 1
  if (from > to || from >= size) throw createError({ statusCode: 416, statusMessage: 'Range not satisfiable' })
  return { from, to }
}

/** Shows a file of a published page to students, in parts where a player asks for parts. @throws 404 */
export async function showFile(event: H3Event, id: string, path: string): Promise<Buffer> {
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
}
