import { beforeAll, describe, expect, it, vi } from 'vitest'

let saidSince: typeof import('../../student/since').saidSince
beforeAll(async () => {
  vi.stubGlobal('document', { documentElement: { dataset: {} } })
  ;({ saidSince } = await import('../../student/since'))
  vi.unstubAllGlobals()
})
const q = (number: string, changed: string | undefined, hasSeen: boolean) => ({ number, changed, hasSeen })

describe('since she was here', () => {
  const visited = '2026-11-20T10:00:00.000Z'
  it('tells what changed of what she has seen, and what is new to her', () => {
    const questions = [
      q('1', '2026-11-19T10:00:00.000Z', true),
      q('2', '2026-11-21T10:00:00.000Z', true),
      q('3', '2026-11-21T10:00:00.000Z', false),
      q('4b', '2026-11-22T10:00:00.000Z', false),
    ]
    expect(saidSince(questions, visited)).toBe('Since you were here: question 2 has changed; question 3, 4b are new.')
    expect(saidSince(questions.slice(0, 2), visited)).toBe('Since you were here: question 2 has changed.')
  })
  it('says nothing on a first visit, where nothing changed, or where dates are not known or cannot be read', () => {
    expect(saidSince([q('1', '2026-11-21T10:00:00.000Z', true)], null)).toBe('')
    expect(saidSince([q('1', '2026-11-19T10:00:00.000Z', true), q('2', undefined, false)], visited)).toBe('')
    expect(saidSince([q('1', 'soon', true)], visited)).toBe('')
    expect(saidSince([q('1', '2026-11-21T10:00:00.000Z', true)], 'yesterday')).toBe('')
  })
})
