import { deflateSync } from 'node:zlib'
import { describe, expect, it } from 'vitest'
import { FOLIO_SCHEMA, archiveBlob, openArchive, whatSwells, FOLIO_LIMITS, type ArchiveFile } from '../../core/folio'
import { readInkml } from '../../core/ink'
import { folioFiles, lineageOf, readFolioFile, withNewIds } from '../../core/publish'
import { makeWorksheet } from '../../demo/worksheet'
import { folio, line, question } from '../support/make'

/** Files within the limits that would still bring the tab down: each is refused with three sentences that name it. */
const frame = { pageId: 'p1', box: { x: 0, y: 0, w: 160, h: 90 } }
const take = {
  id: 't1',
  folioId: 'f1',
  questionId: 'q1',
  startedAt: '2026-10-01T08:00:00.000Z',
  durationMs: 2000,
  state: 'whole' as const,
  frame,
  microphone: '',
  pen: '',
  gaps: [],
}
const files = () =>
  folioFiles({
    folio: folio({ questions: [question('q1', '1', { ledger: { takeId: 't1', turns: [], steps: [] } })] }),
    documents: new Map([['d1', new Blob(['%PDF-1.7'])]]),
    takes: [{ take, events: [line('a', 0)], sound: null }],
  })
/** What a test changes is not of the right kind on purpose. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- as above
type Json = any
const read = (all: ArchiveFile[]) => archiveBlob(all).then(b => readFolioFile(b, 'odd.folio'))
const withJson = (path: string, edit: (json: Json) => unknown) =>
  read(
    files().map(f => (f.path === path ? { ...f, data: JSON.stringify(edit(JSON.parse(String(f.data)) as Json)) } : f)),
  )
const withText = (path: string, edit: (text: string) => string) =>
  read(files().map(f => (f.path === path ? { ...f, data: edit(String(f.data)) } : f)))
const refused = (code: string, why = '') =>
  expect.objectContaining({
    code,
    message: expect.stringMatching(new RegExp(`odd\\.folio.*${why}`)) as string,
    safe: expect.stringMatching(/\w/) as string,
    next: expect.stringMatching(/\w/) as string,
  })
const inFolio = (edit: (f: Json) => void) =>
  withJson('folio.json', j => {
    edit(j.folio)
    return j
  })
const inTake = (values: object) =>
  withJson('folio.json', j => {
    Object.assign(j.takes[0], values)
    return j
  })
const logged = (...events: unknown[]) => withJson('takes/t1/log.json', log => [...log, ...events])
const placed = (thing: object, over = 0) => logged({ type: 'place', t: 5, id: 'p', thing, over })
const figure = (spec: object) =>
  placed({ kind: 'figure', at: { x: 0, y: 0 }, unit: 10, role: 'working', spec, text: '', sets: {} })
const axes = (x: number[]) => figure({ figure: 'axes', x, y: [0, 10, 1], xLabel: '', yLabel: '' })

describe('folio files that are out of bounds', () => {
  it.each([[0], [4.5], [-3], ['5'], [null]])('of version %j are damaged', async schema => {
    await expect(
      inFolio(f => {
        f.schema = schema
      }),
    ).rejects.toEqual(refused('folio-damaged'))
  })
  it('of a newer version, in the file or in the folio, are told as such', async () => {
    await expect(
      inFolio(f => {
        f.schema = FOLIO_SCHEMA + 1
      }),
    ).rejects.toEqual(refused('folio-newer'))
    await expect(withJson('folio.json', j => ({ ...j, schema: FOLIO_SCHEMA + 3 }))).rejects.toEqual(
      refused('folio-newer'),
    )
  })
  it.each([
    ['a take of thirty days', () => inTake({ durationMs: 30 * 86_400_000 }), 'lasts 720 hours'],
    [
      'a box of 10^300',
      () => inTake({ frame: { pageId: 'p1', box: { x: 0, y: 0, w: 1e300, h: 1e300 } } }),
      'described wrongly',
    ],
    [
      'a stroke after the end of all takes',
      () => withText('takes/t1/log.json', t => t.replace('"t":0', '"t":99999999999')),
      'after the end',
    ],
    [
      'something that takes years to appear',
      () =>
        placed(
          {
            kind: 'shape',
            shape: 'line',
            role: 'working',
            width: 1,
            handles: [
              { x: 0, y: 0 },
              { x: 1, y: 1 },
            ],
          },
          1e12,
        ),
      'not a log',
    ],
    ['axes from −1e308 to 1e308', () => axes([-1e308, 1e308, 1]), 'not a log'],
    ['axes of a million steps', () => axes([0, 1e6, 1]), 'cannot be laid out'],
    [
      'a molecule called constructor',
      () => figure({ figure: 'molecule', formula: 'constructor', dots: false }),
      'cannot be laid out',
    ],
    [
      'a circuit symbol called toString',
      () => figure({ figure: 'circuit', symbol: 'toString', label: '' }),
      'cannot be laid out',
    ],
    [
      'a number line without end',
      () =>
        placed({
          kind: 'guide',
          at: { x: 0, y: 0 },
          cell: 10,
          text: '',
          spec: { guide: 'numberLine', from: '0', to: '999999999', step: '0.001', points: [] },
        }),
      'cannot be laid out',
    ],
    [
      'two pages of one id',
      () =>
        inFolio(f => {
          f.pages.push(f.pages[0])
        }),
      'two pages',
    ],
    [
      'two takes of one id',
      () => withJson('folio.json', j => ({ ...j, takes: [...j.takes, ...j.takes] })),
      'two takes',
    ],
  ])('%s', async (_, make, why) => {
    await expect(make()).rejects.toEqual(refused('folio-damaged', why))
  })
  it.each([
    ['deep', '<a>'.repeat(50_000) + '</a>'.repeat(50_000)],
    ['a name that objects have', '<ink><__proto__>x</__proto__></ink>'],
    ['another such name', '<ink><trace><constructor/></trace></ink>'],
    [
      'numbers without bounds',
      readable(
        line('a', 0)
          .points.map(() => 1e300)
          .join(' '),
      ),
    ],
    ['no XML', '{"ink":[]}'],
  ])('ink that is %s', (_, xml) => {
    expect(() => readInkml(xml, 'odd.folio')).toThrowError(refused('ink-unreadable'))
  })
  it('takes are those of their folio, whatever they say; copies know where they come from', async () => {
    const whole = await inTake({ folioId: 'somebody-elses' })
    expect(whole.takes[0]!.take.folioId).toBe('f1')
    let n = 0
    const ids = new Map<string, string>()
    const copy = withNewIds(whole, () => `new-${++n}`, ids)
    expect([
      lineageOf(whole.folio),
      lineageOf(copy.folio),
      lineageOf(withNewIds(copy, () => `newer-${++n}`).folio),
    ]).toEqual(['f1', 'f1', 'f1'])
    expect(ids.get('t1')).toBe(copy.takes[0]!.take.id)
  })
})

/** Ink with one trace of the given samples. */
function readable(samples: string): string {
  return `<ink><definitions><traceFormat>${['X', 'Y', 'F', 'T'].map(c => `<channel name="${c}"/>`).join('')}</traceFormat><context xml:id="c" brushRef="#working" inkSourceRef="#source-pen"/></definitions><trace xml:id="s-a" contextRef="#c">${samples.split(' ').slice(0, 4).join(' ')}</trace></ink>`
}

describe('what would take all memory', () => {
  const png = (width: number, height: number) =>
    new Blob([
      Uint8Array.from([
        0x89,
        ...Buffer.from('PNG\r\n\x1A\n'),
        0,
        0,
        0,
        13,
        ...Buffer.from('IHDR'),
        ...[width, height].flatMap(n => [n >>> 24, (n >>> 16) & 255, (n >>> 8) & 255, n & 255]),
      ]),
    ])
  const pdf = (dictionary: string, stream: Uint8Array) =>
    new Blob([
      '%PDF-1.7\n1 0 obj\n<< ',
      dictionary,
      ' >>\nstream\n',
      stream as Uint8Array<ArrayBuffer>,
      '\nendstream\nendobj\n',
    ])
  it('is a picture with far too many pixels, found by its header', async () => {
    expect(await whatSwells(png(36_400, 36_400), 'image/png')).toMatch(/1325 megapixels/)
    expect(await whatSwells(png(4000, 3000), 'image/png')).toBeNull()
  })
  it('is a stream of a PDF that becomes gigabytes, whatever length it says', async () => {
    const bomb = deflateSync(Buffer.alloc(35 * 1024 ** 2), { level: 1 })
    for (const length of [`/Length ${bomb.length}`, '/Length 7 0 R', '']) {
      const file = pdf(`/Filter /FlateDecode ${length}`, bomb)
      expect(await whatSwells(file, 'application/pdf', 30 * 1024 ** 2), length).toMatch(/unpacks to more than 30 MB/)
      expect(await whatSwells(file, 'application/pdf'), length).toBeNull()
    }
    expect(
      await whatSwells(
        pdf('/Type /XObject /Subtype /Image /Width 40000 /Height 40000 /Filter /DCTDecode', new Uint8Array(9)),
        'application/pdf',
      ),
    ).toMatch(/1600 megapixels/)
  })
  it('is not an ordinary file', async () => {
    expect(
      await whatSwells(new Blob([(await makeWorksheet()) as Uint8Array<ArrayBuffer>]), 'application/pdf'),
    ).toBeNull()
    expect(
      await whatSwells(
        pdf('/Filter /FlateDecode', deflateSync(Buffer.from('q 1 0 0 1 0 0 cm Q'.repeat(900)))),
        'application/pdf',
      ),
    ).toBeNull()
  })
  it('is a zip of many files that swell together, or many texts', async () => {
    const many = await archiveBlob(
      Array.from({ length: 80 }, (_, i) => ({ path: `a${i}.json`, data: '0'.repeat(1024 ** 2 - 1) })),
    )
    expect(many.size).toBeLessThan(2e6)
    await expect(openArchive(many, 'odd.folio')).rejects.toEqual(refused('archive-bomb'))
    const texts = await openArchive(
      await archiveBlob([
        { path: 'a', data: 'x'.repeat(600) },
        { path: 'b', data: 'y'.repeat(600) },
      ]),
      'odd.folio',
      { ...FOLIO_LIMITS, texts: 1000 },
    )
    await texts.text('a')
    await expect(texts.text('b')).rejects.toEqual(refused('archive-bomb'))
  })
})
