import { randomBytes, timingSafeEqual } from 'node:crypto'
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'

let key = ''

/** The key without which nothing is published, made at the first start and kept beside the publications. */
export function publishingKey(folder: string): string {
  if (key) return key
  const path = join(folder, 'publishing-key')
  try {
    key = readFileSync(path, 'utf8').trim()
  } catch {
    /* the first start */
  }
  if (key.length < 20) {
    key = randomBytes(24).toString('base64url')
    mkdirSync(folder, { recursive: true })
    writeFileSync(path, `${key}\n`, { mode: 0o600 })
  }
  return key
}

/** Whether a key is the right one, told in a time that does not depend on it. */
export function isPublishingKey(given: string | undefined, folder: string): boolean {
  const wanted = Buffer.from(publishingKey(folder)),
    got = Buffer.from(given ?? '')
  return got.length === wanted.length && timingSafeEqual(got, wanted)
}
