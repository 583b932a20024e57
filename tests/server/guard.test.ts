import { mkdtempSync, readFileSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import type { IncomingMessage } from 'node:http'
import { describe, expect, it } from 'vitest'
import { readJson } from '../../server/body'
import { isOwnOrigin, isSameMachine } from '../../server/guard'
import { isPublishingKey, publishingKey } from '../../server/publishingKey'

/** Who may do what at the server. */
const from = (address: string, headers: Record<string, string>) =>
  ({ socket: { remoteAddress: address }, headers }) as unknown as IncomingMessage

describe('the same machine', () => {
  it.each([
    ['127.0.0.1', { host: 'localhost:4173' }, true],
    ['::1', { host: '[::1]:80' }, true],
    ['::ffff:127.0.0.1', { host: '127.0.0.1:1' }, true],
    ['127.0.0.1', { host: 'rebound.example:4173' }, false],
    ['192.168.1.4', { host: 'localhost:4173' }, false],
    ['127.0.0.1', {}, false],
    ['127.0.0.1', { 'host': 'localhost', 'x-forwarded-for': '203.0.113.9' }, false],
    ['127.0.0.1', { host: 'localhost', forwarded: 'for=203.0.113.9' }, false],
  ])('%s %j: %s', (address, headers, wanted) =>
    expect(isSameMachine(from(address, headers as Record<string, string>))).toBe(wanted),
  )
})

describe('the application’s own pages', () => {
  it.each([
    [{ host: 'localhost:4173' }, true],
    [{ host: 'localhost:4173', origin: 'http://localhost:4173' }, true],
    [{ host: 'a.example', origin: 'https://a.example' }, true],
    [{ host: 'localhost:4173', origin: 'http://localhost:4174' }, false],
    [{ host: 'localhost:4173', origin: 'null' }, false],
    [{ host: 'localhost:4173', origin: 'https://elsewhere.example' }, false],
    [{ 'host': 'localhost:4173', 'sec-fetch-site': 'same-site' }, false],
    [{ 'host': 'localhost:4173', 'sec-fetch-site': 'same-origin' }, true],
  ])('%j: %s', (headers, wanted) => expect(isOwnOrigin(headers)).toBe(wanted))
})

describe('a JSON body', () => {
  const request = (pieces: string[], headers: Record<string, string> = {}) =>
    Object.assign(Readable.from(pieces.map(p => Buffer.from(p))), { headers }) as unknown as IncomingMessage
  it('is read when it is small and JSON', async () =>
    expect(await readJson(request(['{"a":', '[1]}']))).toEqual({ a: [1] }))
  it.each([
    ['{bad', 400],
    ['', 400],
  ])('%j is refused', async (text, status) => {
    await expect(readJson(request([text]))).rejects.toMatchObject({ statusCode: status })
  })
  it('is refused while it streams once it is too large, and before that when it says so', async () => {
    await expect(readJson(request(Array.from({ length: 100 }, () => ' '.repeat(1000))))).rejects.toMatchObject({
      statusCode: 413,
    })
    await expect(readJson(request([], { 'content-length': '200000000' }))).rejects.toMatchObject({ statusCode: 413 })
  })
})

describe('the publishing key', () => {
  it('is made once, is nobody’s to read, and nothing else passes for it', () => {
    const folder = mkdtempSync(join(tmpdir(), 'orthograph-key-'))
    const key = publishingKey(folder)
    expect(key.length).toBeGreaterThan(30)
    expect(readFileSync(join(folder, 'publishing-key'), 'utf8').trim()).toBe(key)
    expect(statSync(join(folder, 'publishing-key')).mode & 0o077).toBe(0)
    expect(publishingKey(folder)).toBe(key)
    expect([key, `${key}x`, key.slice(1), '', undefined].map(k => isPublishingKey(k, folder))).toEqual([
      true,
      false,
      false,
      false,
      false,
    ])
    rmSync(folder, { recursive: true })
  })
})
