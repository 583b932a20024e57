import { vttTime } from '../captions/vtt'
import { addressOf, encodePath, isClosed, type PublishedFolio } from './page'
import { xmlFile } from './xml'

/** The name of the feed beside the page. */
export const FEED = 'feed.xml'
/** Open formats that a feed is written in, beside RSS 2.0 itself. */
const SPACES = {
  '@xmlns:atom': 'http://www.w3.org/2005/Atom',
  '@xmlns:dc': 'http://purl.org/dc/elements/1.1/',
  '@xmlns:psc': 'http://podlove.org/simple-chapters',
}

/**
 * The folio's videos as a feed (RSS 2.0) that readers subscribe to: an item for each question of which students have the
 * solution, with its video where there is one, and its steps as chapters (Simple Chapters 1.2) that lead to their places.
 * @param folio the page at one moment: what is not released on it is not in its feed either
 * @param link the page's address; without one, addresses are beside the feed, wherever it is put
 * @param since when students first had each question, ISO, by its id
 * @param at when it was made, ISO
 */
export function feedOf(folio: PublishedFolio, link: string, since: ReadonlyMap<string, string>, at: string): string {
  const items = folio.questions.flatMap(q => {
    if (isClosed(q) || q.hint) return []
    const place = `${link || 'index.html'}#${addressOf(q)}`
    return [
      {
        'title': `${q.number}  ${q.title}`.trim(),
        'link': place,
        'guid': { '@isPermaLink': 'false', '#': `${folio.id}/${q.id}` },
        'pubDate': inMail(since.get(q.id) ?? at),
        'description': q.print.join('\n'),
        ...(q.video
          ? {
              enclosure: {
                '@url': link + encodePath(q.video.path),
                '@length': String(q.video.bytes),
                '@type': q.video.mime.split(';')[0]!,
              },
            }
          : {}),
        'psc:chapters': {
          '@version': '1.2',
          'psc:chapter': q.chapters.map(({ t, title }) => ({
            '@start': vttTime(t),
            '@title': title,
            '@href': `${place}&t=${t / 1000}`,
          })),
        },
      },
    ]
  })
  const about = [folio.course, folio.plan.lesson].filter(Boolean).join(', ')
  const channel = {
    title: folio.title,
    link: link || 'index.html',
    description: about || folio.title,
    language: 'en',
    ...(folio.author ? { 'dc:creator': folio.author } : {}),
    lastBuildDate: inMail(at),
    ...(link ? { 'atom:link': { '@href': link + FEED, '@rel': 'self', '@type': 'application/rss+xml' } } : {}),
    item: items,
  }
  return xmlFile({ rss: { '@version': '2.0', ...SPACES, channel } })
}

/**
 * The address of a page as it was typed, so that what stands beside it can be named: "https://a.example/x" and
 * ".../x/index.html" both become "https://a.example/x/"; '' for none, null for what is no address.
 */
export function pageAddress(typed: string): string | null {
  const text = typed.trim()
  if (text === '' || text === 'https://') return ''
  if (!/^https?:\/\/[^/]/i.test(text) || !URL.canParse(text)) return null
  const { origin, pathname, username, search } = new URL(text)
  if (username || search) return null
  return origin + pathname.replace(/index\.html?$/, '').replace(/\/?$/, '/')
}

/** "Fri, 04 Dec 2026 07:30:00 GMT" (RFC 822, as RSS 2.0 asks). */
const inMail = (iso: string) => new Date(iso).toUTCString()
