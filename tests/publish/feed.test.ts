import { XMLValidator } from 'fast-xml-parser'
import FeedReader from 'rss-parser'
import { describe, expect, it } from 'vitest'
import { feedOf, type ListedQuestion, type PublishedFolio } from '../../core/publish'
import { folio as made } from '../support/make'

/** Feeds, read by a reader of feeds; rules by the RSS 2.0 specification (RSS Advisory Board) and Simple Chapters 1.2. */
const NASTY = 'a <b>&amp;</b> "c" ]]> 😀 \u0007 \uD800'
const plain = 'a <b>&amp;</b> "c" ]]> 😀'
const question = (number: string, extra: Partial<ListedQuestion> = {}): ListedQuestion =>
  ({
    ...{
      id: `q${number}`,
      number,
      title: NASTY,
      lesson: 'AAAA',
      print: [NASTY, 'second line'],
      base: `questions/${number}`,
    },
    ...{ name: 'x.mp4', duration: 90_500, captions: [], turns: [] },
    chapters: [
      { t: 0, title: NASTY },
      { t: 61_005, title: 'Rate' },
    ],
    ...extra,
  }) as ListedQuestion
const folio: PublishedFolio = {
  ...{ id: 'f1', title: NASTY, course: 'Air', author: 'A. Teacher', worksheets: [], skipped: [] },
  plan: { ...made().plan, lesson: 'Heights' },
  questions: [
    question('1', { video: { path: 'questions/01 größe.mp4', mime: 'video/mp4; codecs="avc1"', bytes: 12_345 } }),
    { id: 'q2', number: '2', title: 'Later', opens: '2026-12-04T07:30:00.000Z' },
    question('3', { hint: { fullFrom: '2026-12-04T07:30:00.000Z' } }),
    question('4'),
  ],
}
const AT = '2026-11-27T20:00:00.000Z'
const LINK = 'https://site.example/0123/'
const since = new Map([['q1', '2026-11-20T06:05:04.000Z']])
interface Chapters {
  '$': { version: string }
  'psc:chapter': { $: Record<'start' | 'title' | 'href', string> }[]
}
const read = (xml: string) =>
  new FeedReader<object, { chapters: Chapters; description: string }>({
    customFields: { item: [['psc:chapters', 'chapters'], 'description'] },
  }).parseString(xml)

describe('a feed', () => {
  const xml = feedOf(folio, LINK, since, AT)
  it('has what students have whole: its place, its video, when they first had it', async () => {
    expect(XMLValidator.validate(xml)).toBe(true)
    const feed = await read(xml)
    expect([feed.title?.startsWith(plain), feed.link, feed.description, feed.feedUrl]).toEqual([
      true,
      LINK,
      'Air, Heights',
      `${LINK}feed.xml`,
    ])
    expect(feed.items.map(i => [i.link, i.guid, i.isoDate])).toEqual([
      [`${LINK}#q-q1`, 'f1/q1', '2026-11-20T06:05:04.000Z'],
      [`${LINK}#q-q4`, 'f1/q4', AT],
    ])
    expect(feed.items[0]!.title?.startsWith(`1  ${plain}`)).toBe(true)
    expect(feed.items[0]!.description).toContain('second line')
    expect(feed.items[0]!.enclosure).toEqual({
      url: `${LINK}questions/01%20gr%C3%B6%C3%9Fe.mp4`,
      length: '12345',
      type: 'video/mp4',
    })
    expect(feed.items[1]!.enclosure).toBeUndefined()
  })
  it('has the steps as chapters that lead to their moments', async () => {
    const [first] = (await read(xml)).items
    expect(first!.chapters.$.version).toBe('1.2')
    expect(first!.chapters['psc:chapter'].map(c => [c.$.start, c.$.title.startsWith(plain), c.$.href])).toEqual([
      ['00:00:00.000', true, `${LINK}#q-q1&t=0`],
      ['00:01:01.005', false, `${LINK}#q-q1&t=61.005`],
    ])
  })
  it('gives dates as mail does (RFC 822)', () => {
    expect(xml).toContain('<pubDate>Fri, 20 Nov 2026 06:05:04 GMT</pubDate>')
    expect(xml).toContain('<lastBuildDate>Fri, 27 Nov 2026 20:00:00 GMT</lastBuildDate>')
  })
  it('names what stands beside it where nobody knows yet under which address', async () => {
    const feed = await read(feedOf({ ...folio, questions: folio.questions.slice(0, 1) }, '', since, AT))
    expect([feed.link, feed.items[0]!.link, feed.items[0]!.enclosure?.url]).toEqual([
      'index.html',
      'index.html#q-q1',
      'questions/01%20gr%C3%B6%C3%9Fe.mp4',
    ])
  })
  it('is one also where nothing is released yet, and without words', async () => {
    const empty = { ...folio, questions: [folio.questions[1]!], course: '', plan: made().plan, author: '' }
    const feed = await read(feedOf(empty, LINK, since, AT))
    expect([feed.items.length, feed.description?.startsWith(plain)]).toEqual([0, true])
  })
})
