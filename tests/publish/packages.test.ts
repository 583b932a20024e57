import { DOMParser, onErrorStopParsing, type Document, type Element } from '@xmldom/xmldom'
import { XMLParser } from 'fast-xml-parser'
import ICAL from 'ical.js'
import { describe, expect, it } from 'vitest'
import type { Folio } from '../../core/folio'
import { calendarOf, cartridgeFiles } from '../../core/publish'
import { folio, question } from '../support/make'

/** What other software reads: calendars through ical.js, cartridges through an XML reader by the published rules. */
const ledger = { takeId: 't', steps: [], turns: [] }
const NASTY = 'a <b>&amp;</b> "c"; d, e\\f\n😀 \u0007' + 'long '.repeat(40)
const withDates = (extra: Partial<Folio> = {}) =>
  folio({
    title: NASTY,
    plan: { ...folio().plan, due: '2026-10-25', bring: NASTY },
    questions: [
      question('q1', '1', {
        ledger,
        release: { hint: ['s'], hintFrom: '2026-10-24T16:00:00.000Z', fullFrom: '2026-10-25T00:30:00.000Z' },
      }),
      question('q2', '2', { ledger, release: { fullFrom: '2026-10-25T01:30:00.000Z' } }),
      question('q3', '3', { release: { fullFrom: '2026-10-25T01:30:00.000Z' } }),
    ],
    ...extra,
  })

describe('a calendar', () => {
  const calendar = calendarOf(withDates(), 'https://site.example/0123/', '2026-10-01T08:00:00.000Z')!
  const component = new ICAL.Component(ICAL.parse(calendar) as unknown[])
  const events = component.getAllSubcomponents('vevent').map(e => new ICAL.Event(e))
  it('has the due date as a day, and releases as moments; what is not recorded has none', () => {
    expect(
      events.map(e => [e.uid.split('@')[0], e.startDate.isDate, e.startDate.toJSDate().toISOString().slice(0, 16)]),
    ).toEqual([
      ['f1-due', true, expect.stringMatching(/^2026-10-2[45]T/)],
      ['q1-hint', false, '2026-10-24T16:00'],
      ['q1-full', false, '2026-10-25T00:30'],
      ['q2-full', false, '2026-10-25T01:30'],
    ])
    expect(events[0]!.startDate.toString()).toBe('2026-10-25')
  })
  it('keeps two moments apart that clocks in Europe show as one (daylight saving ends there that night)', () => {
    const [first, second] = events.slice(2).map(e => e.startDate.toJSDate())
    const shown = (d: Date) => d.toLocaleTimeString('en-GB', { timeZone: 'Europe/Berlin' })
    expect(shown(first!)).toBe(shown(second!))
    expect(second!.getTime() - first!.getTime()).toBe(3_600_000)
  })
  it('holds any text, in lines of 75 bytes', () => {
    expect(events[0]!.summary).toBe(`Due: ${NASTY.replace('\u0007', ' ')}`)
    for (const line of calendar.split('\r\n')) expect(new TextEncoder().encode(line).length).toBeLessThanOrEqual(75)
  })
  it('is none without dates, or with a date that is none', () => {
    expect(calendarOf(folio(), '', '2026-10-01T08:00:00.000Z')).toBeNull()
    expect(calendarOf(folio({ plan: { ...folio().plan, due: 'soon' } }), '', '2026-10-01T08:00:00.000Z')).toBeNull()
  })
})

describe('a cartridge', () => {
  const options = ['A', 'B', 'C'].map((label, i) => ({ id: label, label, text: `${i} <km>`, place: null }))
  const questions = [question('q1', '1', { title: NASTY }), question('q2', '2', { options, answer: 'B' })]
  const next = [
    { id: 'n1', text: NASTY, answer: '12 m', hint: NASTY },
    { id: 'n2', text: 'How?', answer: '', hint: '' },
  ]
  const of = withDates({ questions, plan: { ...folio().plan, next } })
  const files = cartridgeFiles(of, questions, 'https://site.example/0123/')
  const list = ['item', 'resource', 'file', 'varequal', 'respcondition', 'response_label', 'qtimetadatafield']
  const parser = new XMLParser({ ignoreAttributes: false, isArray: name => list.includes(name) })
  const read = (path: string) => parser.parse(String(files.find(f => f.path === path)!.data)) as Record<string, never>
  /** As another reader than the one whose writer made it reads it; what is not well formed is thrown. */
  const parsed = (path: string): Document =>
    new DOMParser({ onError: onErrorStopParsing }).parseFromString(
      String(files.find(f => f.path === path)!.data),
      'text/xml',
    )
  const all = (of: Document | Element, name: string) => [...of.getElementsByTagName(name)]
  it('is well formed, and says what was typed, whatever that is', () => {
    const plain = NASTY.replace('\u0007', ' ')
    for (const file of files) expect(parsed(file.path).documentElement, file.path).not.toBeNull()
    const texts = all(parsed('practice/assessment.xml'), 'mattext').map(e => e.textContent)
    expect(texts.slice(0, 1)).toEqual([plain])
    expect(texts).toContain('A  0 <km>')
    const [, practice] = cartridgeFiles({ ...of, title: 'true' }, questions, '')
    expect(String(practice!.data)).toContain('<assessment ident="practice" title="true">')
    expect(all(parsed('links/link-1.xml'), 'title')[0]!.textContent).toContain(plain.trimEnd())
    expect(all(parsed('links/link-2.xml'), 'url')[0]!.getAttribute('href')).toBe(
      `https://site.example/0123/#q-${questions[1]!.id}`,
    )
  })
  it('has its elements in the order of the published schemas (QTI 1.2.1 and IMS CP, sequences)', () => {
    const order = (of: Element) => [...of.childNodes].filter(c => c.nodeType === 1).map(c => c.nodeName)
    const [first, second] = all(parsed('practice/assessment.xml'), 'item') as [Element, Element]
    expect(order(first)).toEqual(['itemmetadata', 'presentation', 'resprocessing', 'itemfeedback'])
    expect(order(all(second, 'presentation')[0]!)).toEqual(['material', 'response_lid'])
    expect(order(all(first, 'resprocessing')[0]!)).toEqual(['outcomes', 'respcondition', 'respcondition'])
    expect(order(all(first, 'respcondition')[0]!)).toEqual(['conditionvar', 'setvar'])
    const manifest = parsed('imsmanifest.xml').documentElement!
    expect(order(manifest)).toEqual(['metadata', 'organizations', 'resources'])
    expect(order(all(manifest, 'item')[1]!)).toEqual(['title', ...files.slice(1).map(() => 'item')])
    // Names of schemas in pairs: what is written, and where it is described.
    const places = manifest.getAttribute('xsi:schemaLocation')!.split(' ')
    expect(places.filter((_, i) => i % 2 === 0)).toEqual([
      manifest.getAttribute('xmlns'),
      manifest.getAttribute('xmlns:lomimscc'),
    ])
    expect(places.filter((_, i) => i % 2).every(p => /^http:\/\/www\.imsglobal\.org\/.*\.xsd$/.test(p))).toBe(true)
  })
  it('lists every file once, of a known kind, and each of its items (IMS CC 1.3, 4)', () => {
    const { manifest } = read('imsmanifest.xml') as unknown as {
      manifest: {
        metadata: { schema: string; schemaversion: string }
        resources: { resource: { '@_identifier': string; '@_type': string; 'file': { '@_href': string }[] }[] }
        organizations: {
          organization: { '@_structure': string; 'item': { item: { item: { '@_identifierref': string }[] }[] }[] }
        }
      }
    }
    expect([manifest.metadata.schema, manifest.metadata.schemaversion]).toEqual(['IMS Common Cartridge', '1.3.0'])
    const { resource } = manifest.resources
    expect(resource.map(r => r.file[0]!['@_href']).sort()).toEqual(
      files
        .slice(1)
        .map(f => f.path)
        .sort(),
    )
    expect(new Set(resource.map(r => r['@_type']))).toEqual(
      new Set(['imswl_xmlv1p3', 'imsqti_xmlv1p2/imscc_xmlv1p3/assessment']),
    )
    const { organization } = manifest.organizations
    expect(organization['@_structure']).toBe('rooted-hierarchy')
    expect(organization.item[0]!.item[0]!.item.map(i => i['@_identifierref'])).toEqual(
      resource.map(r => r['@_identifier']),
    )
  })
  it('asks what can be checked: typed answers, and options with the right one', () => {
    const { questestinterop } = read('practice/assessment.xml') as unknown as {
      questestinterop: {
        assessment: {
          section: {
            item: {
              itemmetadata: { qtimetadata: { qtimetadatafield: { fieldentry: string }[] } }
              resprocessing: { respcondition: { conditionvar: { varequal: { '#text': string }[] } }[] }
              presentation: { response_lid?: { render_choice: { response_label: { '@_ident': string }[] } } }
            }[]
          }
        }
      }
    }
    const items = questestinterop.assessment.section.item
    expect(items.map(i => i.itemmetadata.qtimetadata.qtimetadatafield[0]!.fieldentry)).toEqual([
      'cc.fib.v0p1',
      'cc.multiple_choice.v0p1',
    ])
    const right = items.map(i => i.resprocessing.respcondition.map(c => String(c.conditionvar.varequal[0]!['#text'])))
    expect(right).toEqual([['12 m', '12'], ['o2']])
    expect(items[1]!.presentation.response_lid!.render_choice.response_label.map(l => l['@_ident'])).toEqual([
      'o1',
      'o2',
      'o3',
    ])
  })
  it('has no links where nothing is published', () => {
    expect(cartridgeFiles(of, questions, '').map(f => f.path)).toEqual(['imsmanifest.xml', 'practice/assessment.xml'])
    expect(cartridgeFiles(folio(), [], '').map(f => f.path)).toEqual(['imsmanifest.xml'])
  })
})
