import { describe, expect, it } from 'vitest'
import { strikeStretch } from '../../core/cut'
import { editionOf } from '../../core/edition'
import { FOLIO_SCHEMA, archiveBlob, changed, migrateFolio, newId, type ArchiveFile } from '../../core/folio'
import { folioFiles, readFolioFile, withNewIds, type WholeFolio } from '../../core/publish'
import { makeDemoFolio } from '../../demo/make'
import { folio, line, question } from '../support/make'

const pdf = new Blob(['%PDF-1.7 not really'], { type: 'application/pdf' })
function whole(): WholeFolio {
  const ledger = {
    takeId: 't1',
    turns: [],
    steps: [
      { id: 's1', t: 0, title: '<b>x</b> & y', words: '', struck: false },
      { id: 's2', t: 900, title: '', words: 'said', struck: true },
    ],
  }
  return {
    folio: folio({ title: 'A & <B>', questions: [question('q1', '1', { ledger })] }),
    documents: new Map([['d1', pdf]]),
    takes: [
      {
        take: {
          id: 't1',
          folioId: 'f1',
          questionId: 'q1',
          startedAt: '2026-10-01T08:00:00.000Z',
          durationMs: 2000,
          state: 'whole',
          frame: { pageId: 'p1', box: { x: 0, y: 0, w: 160, h: 90 } },
          microphone: 'm',
          pen: 'p',
          gaps: [{ from: 3, to: 99 }],
        },
        events: [
          line('a', 0),
          { type: 'step', t: 900, id: 'st' },
          line('b', 1000, { role: 'answer' }),
          { type: 'erase', t: 1200, id: 'e', strokes: ['a'] },
          { type: 'undo', t: 1300, target: 'e' },
          { type: 'pause', t: 1400, away: 7 },
        ],
        sound: new Blob([new Uint8Array([1, 2, 3])], { type: 'audio/flac' }),
      },
    ],
  }
}
const bytes = async (b: Blob | null | undefined) => (b ? [...new Uint8Array(await b.arrayBuffer())] : null)
const edited = async (edit: (files: ArchiveFile[]) => ArchiveFile[]) => archiveBlob(edit(folioFiles(whole())))

describe('the folio file', () => {
  it('gives back everything: pages, questions, ledger, log, ink and sound', async () => {
    const before = whole()
    const after = await readFolioFile(await archiveBlob(folioFiles(before)), 'x.folio')
    expect(after.folio).toEqual(before.folio)
    expect(after.takes[0]!.take).toEqual(before.takes[0]!.take)
    expect(after.takes[0]!.events).toEqual(before.takes[0]!.events)
    expect(await bytes(after.takes[0]!.sound)).toEqual([1, 2, 3])
    expect(after.takes[0]!.sound!.type).toBe('audio/flac')
    expect(await bytes(after.documents.get('d1'))).toEqual(await bytes(pdf))
  })
  it('is made of open formats', () => {
    expect(folioFiles(whole()).map(f => f.path)).toEqual([
      'folio.json',
      'pages/d1.pdf',
      'takes/t1/ink.inkml',
      'takes/t1/log.json',
      'takes/t1/sound.flac',
      'takes/t1/steps.vtt',
      'takes/t1/captions.vtt',
    ])
  })
  it('holds the camera’s track and the clips; a copy has clips of its own', async () => {
    const before = whole()
    const portrait = { shape: 'wide', corner: 'top-left', size: 0.3 } as const
    before.folio.questions[0]!.ledger!.portrait = portrait
    before.folio.questions[0]!.clips = { end: { takeId: 't2', said: 'Well done.' } }
    before.folio.clips = { opening: { takeId: 't3', said: '' } }
    const [{ take }] = before.takes as [WholeFolio['takes'][number]]
    const clip = (id: string, questionId: string, place: 'opening' | 'end') => ({
      take: { ...take, id, questionId, clip: place, camera: { width: 1280, height: 720, gaps: [] } },
      events: [],
      sound: null,
      camera: new Blob([new Uint8Array([id.length, 9])], { type: 'video/webm' }),
    })
    before.takes.push(clip('t2', 'q1', 'end'), clip('t3', 'f1', 'opening'))
    expect(
      folioFiles(before)
        .map(f => f.path)
        .filter(p => p.includes('camera')),
    ).toEqual(['takes/t2/camera.webm', 'takes/t3/camera.webm'])
    const after = await readFolioFile(await archiveBlob(folioFiles(before)), 'x.folio')
    expect(after.folio).toEqual(before.folio)
    expect(after.takes.map(t => t.take.clip)).toEqual([undefined, 'end', 'opening'])
    expect(await bytes(after.takes[1]!.camera)).toEqual([2, 9])
    expect(after.takes[1]!.camera!.type).toBe('video/webm')
    expect(after.takes[0]!.camera).toBeNull()
    const copy = withNewIds(after, newId)
    expect(copy.folio.clips.opening!.takeId).toBe(copy.takes[2]!.take.id)
    expect(copy.folio.questions[0]!.clips.end).toEqual({ takeId: copy.takes[1]!.take.id, said: 'Well done.' })
    expect(copy.takes[2]!.take.questionId).toBe(copy.folio.id)
    expect(copy.takes[1]!.take.questionId).toBe('q1')
    expect(copy.folio.questions[0]!.ledger!.portrait).toEqual(portrait)
  })
  it('of the sample folio survives the way, too', async () => {
    const demo = await makeDemoFolio()
    const after = await readFolioFile(await archiveBlob(folioFiles(demo)), 'demo.folio')
    expect(after.folio).toEqual(demo.folio)
    expect(after.takes.map(t => t.events)).toEqual(demo.takes.map(t => t.events))
    expect(demo.folio.questions.filter(q => q.ledger)).toHaveLength(5)
    expect(demo.folio.pages).toHaveLength(2)
  })
  it('gives the same editions, also as a copy: struck, mended, recorded once more', async () => {
    const before = whole()
    const { take, events } = before.takes[0]!
    const again = {
      ...take,
      id: 't2',
      durationMs: 1500,
      step: { id: 's1', as: 'anew' as const },
      after: { takeId: 't1', t: 0 },
    }
    before.takes.push({ take: again, events: [line('new', 300), line('more', 700)], sound: null })
    const anew = { takeId: 't2', from: 0, to: 1500 }
    before.folio.questions[0]!.ledger = changed(before.folio.questions[0]!.ledger!, l => {
      l.steps[0] = {
        ...l.steps[0]!,
        anew,
        versions: [
          { id: 'v1', anew },
          { id: 'v2', voice: { ...anew, to: 900 } },
        ],
      }
      l.steps[1]!.struck = false
      strikeStretch(l, { from: 1000, to: 1100 }, true)
      const moved = { type: 'alter' as const, t: 0, id: 'm1', targets: ['new'], matrix: [1, 0, 0, 1, 7, 0] }
      l.mends = [{ id: 'm', made: take.startedAt, name: 'moved', events: [moved] }]
      l.guards = [{ id: 'g', from: 1200, to: 1300 }]
      l.joints = 'stand'
    })
    const editionIn = ({ folio: f, takes }: WholeFolio) => {
      const ledger = f.questions[0]!.ledger!
      const [own, other] = [ledger.takeId, ledger.steps[0]!.anew!.takeId].map(id => takes.find(t => t.take.id === id)!)
      return editionOf({ ...own!, ledger, pages: f.pages, others: { [other!.take.id]: other! } })
    }
    const after = await readFolioFile(await archiveBlob(folioFiles(before)), 'x.folio')
    const copy = withNewIds(after, newId)
    const wanted = editionIn(before)
    expect(wanted.events.map(e => e.type)).toEqual([
      'stroke',
      'stroke',
      'look',
      'spot',
      'step',
      'stroke',
      'pause',
      'alter',
    ])
    for (const one of [after, copy]) {
      expect(editionIn(one).events).toEqual(wanted.events)
      expect(
        editionIn(one)
          .soundPlan()
          .map(p => [p.at, p.ms, p.from]),
      ).toEqual(wanted.soundPlan().map(p => [p.at, p.ms, p.from]))
    }
    expect(copy.folio.questions[0]!.ledger!.steps[0]!.versions!.map(v => (v.anew ?? v.voice)!.takeId)).toEqual(
      Array(2).fill(copy.takes[1]!.take.id),
    )
    expect(events).toHaveLength(6)
  })
  it('of every earlier schema opens with the same result: ink stands at once at its joints, as it did then', () => {
    const now = whole().folio
    now.questions[0]!.ledger!.steps[0]!.struck = true
    const { takes } = whole()
    const at = (schema: number) => {
      const { ledger } = migrateFolio({ ...now, schema }, 'old').questions[0]!
      return editionOf({ ...takes[0]!, ledger: ledger!, pages: [] })
    }
    for (let schema = 1; schema < FOLIO_SCHEMA; schema++) {
      expect(at(schema).ledger.joints).toBe(schema < 9 ? 'stand' : undefined)
      expect(at(schema).events).toEqual(at(FOLIO_SCHEMA).events)
      for (let t = 0; t <= 1200; t += 50) expect(at(schema).boardAt(t)).toEqual(at(FOLIO_SCHEMA).boardAt(t))
    }
  })
  it.each([
    ['without folio.json', (f: ArchiveFile[]) => f.filter(x => x.path !== 'folio.json'), 'folio-damaged'],
    ['without a page file', (f: ArchiveFile[]) => f.filter(x => !x.path.endsWith('.pdf')), 'folio-damaged'],
    ['without a take’s ink', (f: ArchiveFile[]) => f.filter(x => !x.path.endsWith('.inkml')), 'folio-damaged'],
    [
      'with a log that is no JSON',
      (f: ArchiveFile[]) => f.map(x => (x.path.endsWith('log.json') ? { ...x, data: '{' } : x)),
      'folio-damaged',
    ],
    [
      'with a log of other things',
      (f: ArchiveFile[]) => f.map(x => (x.path.endsWith('log.json') ? { ...x, data: '[{"type":"boom"}]' } : x)),
      'folio-damaged',
    ],
    [
      'with a stroke that is not in the ink',
      (f: ArchiveFile[]) =>
        f.map(x => (x.path.endsWith('log.json') ? { ...x, data: '[{"type":"trace","id":"zz","t":1}]' } : x)),
      'folio-damaged',
    ],
    [
      'of a newer version',
      (f: ArchiveFile[]) =>
        f.map(x =>
          x.path === 'folio.json'
            ? { ...x, data: String(x.data).replaceAll(`"schema": ${FOLIO_SCHEMA}`, '"schema": 99') }
            : x,
        ),
      'folio-newer',
    ],
    ['of another kind', () => [{ path: 'word/document.xml', data: '<x/>' }], 'folio-damaged'],
  ])('%s is refused by name', async (_, edit, code) => {
    await expect(readFolioFile(await edited(edit), 'bad.folio')).rejects.toThrowError(
      expect.objectContaining({ code, message: expect.stringContaining('bad.folio') }),
    )
  })
  it('can be opened twice: a copy gets identities of its own, all of them joined up', () => {
    const copy = withNewIds(whole(), newId)
    expect(copy.folio.id).not.toBe('f1')
    expect(copy.takes[0]!.take.folioId).toBe(copy.folio.id)
    expect(copy.folio.questions[0]!.ledger!.takeId).toBe(copy.takes[0]!.take.id)
    expect(copy.folio.pages[0]).toMatchObject({ documentId: copy.folio.documents[0]!.id })
    expect([...copy.documents.keys()]).toEqual([copy.folio.documents[0]!.id])
  })
})
