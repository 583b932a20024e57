import { describe, expect, it } from 'vitest'
import { parseText } from 'media-captions'
import { chapterCues, escapeCue, LINE_LENGTH, spreadWords, vttTime, writeSrt, writeVtt } from '../../core/captions'

/** Checked with an independent reader of W3C WebVTT: the registry's media-captions, in its strict mode. */
async function read(vtt: string) {
  const { cues, errors } = await parseText(vtt, { type: 'vtt', strict: true })
  expect(errors).toEqual([])
  return cues.map(c => ({ from: Math.round(c.startTime * 1000), to: Math.round(c.endTime * 1000), text: c.text }))
}
const plain = (text: string) => text.replace(/&lt;/g, '<').replace(/&gt;/g, '>').replace(/&amp;/g, '&')

describe('WebVTT', () => {
  it('writes times as hh:mm:ss.ttt', () => {
    expect([0, 999, 61_001, 3_600_000 * 12 + 5, -4, 1.6].map(vttTime)).toEqual([
      '00:00:00.000',
      '00:00:00.999',
      '00:01:01.001',
      '12:00:00.005',
      '00:00:00.000',
      '00:00:00.002',
    ])
  })
  it.each([
    '<script>alert(1)</script>',
    'a --> b',
    '00:00:00.000 --> 00:00:05.000',
    'NOTE hidden',
    'A & B <c.red>',
    'STYLE\n::cue{}',
    'one\n\n\nWEBVTT',
    'tab\tand\u0000null',
    '3 < x > 2',
    'ünï ∑ 日本',
  ])('carries %j as plain text', async text => {
    const cues = await read(
      writeVtt([
        { from: 0, to: 1000, text },
        { from: 1000, to: 2000, text: 'after' },
      ]),
    )
    expect(cues).toHaveLength(2)
    // eslint-disable-next-line no-control-regex -- the very character that is to disappear
    expect(plain(cues[0]!.text).replace(/\s+/g, ' ').trim()).toBe(text.replace(/[\s\u0000]+/g, ' ').trim())
    expect(cues[1]!.text).toBe('after')
  })
  it('leaves out cues without words or length', async () => {
    expect(
      await read(
        writeVtt([
          { from: 0, to: 0, text: 'x' },
          { from: 0, to: 10, text: ' \n ' },
        ]),
      ),
    ).toEqual([])
  })
  it('makes chapters that follow one another to the end, each title one line', async () => {
    const cues = chapterCues(
      [
        { t: 0, title: 'read\nthe question' },
        { t: 4000, title: 'x < 3' },
      ],
      9000,
    )
    expect(await read(writeVtt(cues))).toEqual([
      { from: 0, to: 4000, text: 'read the question' },
      { from: 4000, to: 9000, text: escapeCue('x < 3') },
    ])
  })
})

describe('captions from words', () => {
  const words =
    'Now it is at eighteen thousand six hundred and fifty seven. How far is it still to climb? That is a difference, so we subtract, column by column, from the right.'
  const cues = spreadWords(words, 2000, 12_000)
  it('say every word once, in order', () =>
    expect(
      cues
        .map(c => c.text)
        .join(' ')
        .replace(/\n/g, ' '),
    ).toBe(words))
  it('have at most two lines of about 40 characters, a second at least (broadcasters’ guidance, from memory)', () => {
    for (const cue of cues) {
      expect(cue.text.split('\n').length).toBeLessThanOrEqual(2)
      for (const l of cue.text.split('\n')) expect(l.length).toBeLessThanOrEqual(LINE_LENGTH)
      expect(cue.to - cue.from).toBeGreaterThanOrEqual(1000)
    }
  })
  it('fill their stretch without holes', () => {
    expect(cues[0]!.from).toBe(2000)
    expect(cues.at(-1)!.to).toBe(12_000)
    for (let i = 1; i < cues.length; i++) expect(cues[i]!.from).toBe(cues[i - 1]!.to)
  })
  it('are broken where a phrase ends, if that can be', () => {
    expect(cues.map(c => c.text.replace(/\n/g, ' '))).toEqual([
      'Now it is at eighteen thousand six hundred and fifty seven.',
      'How far is it still to climb? That is a difference, so we subtract,',
      'column by column, from the right.',
    ])
    expect(spreadWords('No way.', 0, 1000).map(c => c.text)).toEqual(['No way.'])
  })
  it('never break a number, or it from its unit, and have two lines however fast she speaks', () => {
    for (let before = 0; before < 90; before++) {
      const said = `${'so '
        .repeat(Math.ceil(before / 3))
        .slice(0, before)
        .trim()} it climbs to 30 204 m at 4.5 km/h, then 11 547 m = 11.5 km more, − 3 °C there`
      for (const { text } of spreadWords(said, 0, 900)) {
        expect(text, said).not.toMatch(/\d\n(\d|m|km|°C)|[=−]\n/)
        expect(text.split('\n').length, said).toBeLessThanOrEqual(2)
      }
    }
  })
  it('cope with nothing, with no time and with endless words', () => {
    expect(spreadWords('  ', 0, 1000)).toEqual([])
    expect(spreadWords('a', 1000, 1000)).toEqual([])
    expect(
      spreadWords('x'.repeat(200), 0, 5000)
        .map(c => c.text)
        .join('')
        .replace(/\n/g, ''),
    ).toBe('x'.repeat(200))
  })
})

describe('SubRip', () => {
  it('is read by an independent reader as the same cues', async () => {
    const cues = [
      { from: 0, to: 1500, text: 'x < 3 & y > 2\nand so on' },
      { from: 1500, to: 1500, text: 'no length' },
      { from: 3_600_500, to: 3_602_000, text: 'an hour on\n\n--> still one cue' },
    ]
    const { cues: read, errors } = await parseText(writeSrt(cues), { type: 'srt', strict: true, errors: true })
    expect(errors).toEqual([])
    expect(read.map(c => [c.startTime, c.endTime])).toEqual([
      [0, 1.5],
      [3600.5, 3602],
    ])
    expect(read[0]!.text).toContain('x < 3 & y > 2')
    expect(writeSrt(cues)).toContain('00:00:00,000 --> 00:00:01,500')
  })
})
