import { describe, expect, it } from 'vitest'
import { Cut } from '../../core/cut'
import {
  clockTime,
  encodePath,
  escapeHtml,
  fileName,
  questionFileNames,
  sidecars,
  studentPage,
  type PublishedFolio,
  type PublishedQuestion,
} from '../../core/publish'
import { chplBody, frameTimes, KEY_MS, matroskaChapters, promoteChapters, REPEAT_MS } from '../../core/video'
import { question } from '../support/make'

const NASTY = `"><script>alert('x')</script><img src=x onerror=alert(1)>&amp; ]]> --> ../../etc`

describe('file names', () => {
  it.each([
    ['Rates & heights: sheet 3', 'Rates-heights-sheet-3'],
    ['../../etc/passwd', 'etc-passwd'],
    ['Größe ²', 'Größe-²'],
    ['   ', 'untitled'],
    ['<b>', 'b'],
    ['...', 'untitled'],
    ['con', 'con-file'],
    ['NUL.txt', 'NUL.txt-file'],
    ['a'.repeat(300), 'a'.repeat(200)],
    ['字'.repeat(100), '字'.repeat(66)],
    ['é'.normalize('NFD').repeat(150), 'é'.repeat(100)],
    ['x/\\:*?"<>|y', 'x-y'],
    ['v1..2', 'v1.2'],
  ])('%j becomes %j', (text, name) => expect(fileName(text)).toBe(name))
  it('of questions are never the same', () => {
    const names = questionFileNames([
      question('a', '1', { title: 'Rate' }),
      question('b', '1', { title: 'rate' }),
      question('c', '10'),
      question('d', '', { title: '' }),
    ])
    expect([...names.values()]).toEqual(['01-Rate', '01-rate-2', '10', '00'])
  })
  it('times and paths are readable', () => {
    expect([0, 65_000, 3_725_000].map(clockTime)).toEqual(['0:00', '1:05', '1:02:05'])
    expect(encodePath('videos/a b#.mp4')).toBe('videos/a%20b%23.mp4')
  })
})

describe('when pictures are made', () => {
  const ledger = {
    takeId: 't',
    turns: [],
    steps: [
      [0, false],
      [20_000, true],
      [25_000, false],
    ].map(([t, struck], i) => ({ id: `${i}`, t: t as number, title: '', words: '', struck: struck as boolean })),
  }
  const cut = new Cut(ledger, 60_000)
  // A change in the struck stretch is no change of the cut.
  const changes = Array.from({ length: 400 }, (_, i) => 1000 + i * 8).concat([cut.fromTake(40_000)])
  it('steadily: 30 a second, each as long as the next one is away', () => {
    const frames = frameTimes(cut, changes, 'steady', [])
    expect(frames).toHaveLength(Math.ceil((cut.duration / 1000) * 30))
    expect(frames.filter(f => f.key).map(f => Math.round(f.t))).toEqual([0, 10_000, 20_000, 30_000, 40_000, 50_000])
  })
  it.each(['steady', 'on-change'] as const)('%s: they fill the cut without a hole', mode => {
    const frames = frameTimes(cut, changes, mode, [20_000])
    let t = 0
    for (const f of frames) {
      expect(f.t).toBeCloseTo(t, 6)
      expect(f.duration).toBeGreaterThan(0)
      t = f.t + f.duration
    }
    expect(t).toBeCloseTo(cut.duration, 6)
  })
  it('on change: few while nothing is written, never more than a second apart, key frames at chapters and every ten seconds', () => {
    const frames = frameTimes(cut, changes, 'on-change', [20_000])
    expect(frames.length).toBeLessThan(130)
    expect(Math.max(...frames.map(f => f.duration))).toBeLessThanOrEqual(REPEAT_MS + 1)
    const keys = frames.filter(f => f.key).map(f => f.t)
    expect(keys.some(t => Math.abs(t - 20_000) < 84)).toBe(true)
    for (let i = 1; i < keys.length; i++) expect(keys[i]! - keys[i - 1]!).toBeLessThanOrEqual(KEY_MS + 1)
  })
  it('a change of the board is shown within a twelfth of a second, and there are no others', () => {
    const frames = frameTimes(cut, changes, 'on-change', [])
    const fresh = frames.filter(f => f.fresh).map(f => f.t)
    for (const change of changes) expect(fresh.some(t => t >= change - 1e-6 && t < change + 84)).toBe(true)
    expect(fresh.filter(t => t > 5000).length).toBeLessThanOrEqual(2)
  })
  it('a cut of a few milliseconds still has a picture', () => {
    const short = new Cut({ takeId: 't', turns: [], steps: [ledger.steps[0]!] }, 30)
    expect(frameTimes(short, [], 'on-change', [])).toEqual([{ t: 0, duration: 30, key: true, fresh: true }])
  })
  it('has more pictures only while the view moves, and leaves no change out', () => {
    const moves = Array.from({ length: 21 }, (_, i) => 2000 + i * 33)
    const changes = [...Array.from({ length: 200 }, (_, i) => 500 + i * 5), ...moves].sort((a, b) => a - b)
    const plain = new Cut(
      { takeId: 't', turns: [], steps: [{ id: 'a', t: 0, title: '', words: '', struck: false }] },
      4000,
    )
    const frames = frameTimes(plain, changes, 'on-change', [], moves)
    const between = (a: number, b: number) => frames.filter(f => f.t >= a && f.t < b && f.fresh).length
    expect(between(2000, 2660)).toBeGreaterThanOrEqual(19)
    expect(between(500, 1500)).toBeLessThanOrEqual(13)
    // Every change is in a picture by at most one period of the ink rate later.
    for (const c of changes) expect(frames.some(f => f.fresh && f.t >= c && f.t <= c + 1000 / 12 + 30)).toBe(true)
  })
})

describe('chapters inside files', () => {
  it('chpl holds starts in 100 ns and titles of at most 255 bytes', () => {
    const body = chplBody([
      { t: 0, title: 'A' },
      { t: 1500, title: 'ü'.repeat(300) },
    ])
    const view = new DataView(body.buffer)
    expect([body[0], body[8]]).toEqual([1, 2])
    expect(view.getBigUint64(9)).toBe(0n)
    expect(body[17]).toBe(1)
    expect(view.getBigUint64(19)).toBe(15_000_000n)
    expect(body[27]).toBe(254)
    expect(chplBody(Array.from({ length: 400 }, (_, i) => ({ t: i, title: '' })))[8]).toBe(255)
  })
  it('are lifted out of the tag they travel in, and nothing is touched when the file is laid out otherwise', () => {
    const chapters = matroskaChapters(
      [
        { t: 0, title: 'A' },
        { t: 2000, title: 'B' },
      ],
      5000,
    )
    const el = (id: number[], body: number[]) => [
      ...id,
      0x20 | (body.length >> 16),
      (body.length >> 8) & 255,
      body.length & 255,
      ...body,
    ]
    const tags = el(
      [0x12, 0x54, 0xc3, 0x67],
      el([0x73, 0x73], el([0x67, 0xc8], [...el([0x45, 0xa3], [65]), ...el([0x44, 0x85], [...chapters])])),
    )
    const file = Uint8Array.from([
      ...el([0x1a, 0x45, 0xdf, 0xa3], [0]),
      ...el([0x18, 0x53, 0x80, 0x67], [...tags, ...el([0xec], [1, 2, 3])]),
    ])
    const before = file.slice()
    expect(promoteChapters(file, chapters.length + 1)).toBe(false)
    expect(file).toEqual(before)
    expect(promoteChapters(file, chapters.length)).toBe(true)
    // The tag that is left is empty, and what follows it begins with the Chapters element.
    const left = tags.length - chapters.length
    const start = file.length - tags.length - 7 + left
    expect([...file.slice(start, start + 4)]).toEqual([0x10, 0x43, 0xa7, 0x70])
    expect(promoteChapters(new Uint8Array(20), 5)).toBe(false)
  })
})

describe('the student page', () => {
  const folio: PublishedFolio = {
    id: 'f1',
    plan: {
      lesson: NASTY,
      due: '2026-12-04',
      bring: NASTY,
      next: [{ id: 'n1', text: NASTY, answer: '12 m', hint: NASTY }],
      related: [
        { id: 'r1', title: NASTY, address: 'javascript:alert(1)' },
        { id: 'r2', title: 'Rates', address: 'https://site.example/rates' },
      ],
    },
    skipped: [{ name: 'question 3', why: NASTY }],
    title: NASTY,
    course: NASTY,
    author: NASTY,
    worksheets: [{ path: 'worksheet/a.pdf', name: NASTY }],
    questions: [
      {
        number: NASTY,
        title: NASTY,
        id: 'q1',
        lesson: 'AAAA',
        print: [NASTY],
        base: 'videos/01',
        name: 'Video.mp4',
        video: { path: 'videos/0 1.mp4', mime: 'video/mp4', bytes: 3 },
        poster: 'videos/01.png',
        duration: 9000,
        chapters: [{ t: 0, title: NASTY }],
        captions: [{ from: 0, to: 9000, text: NASTY }],
        turns: [{ t: 4000, to: 9000, seconds: 90 }],
      },
    ],
  }
  it('lets no text of the teacher become markup or script', async () => {
    const html = await studentPage(folio, { script: 'void 0', aids: 'void 1', style: 'p{}', icons: '' })
    // Its own two, and the lesson's data, which is none to run.
    expect(html.match(/<script/g)).toHaveLength(3)
    expect(html).toContain('<script type="application/x-orthograph-lesson" data-of="q1">AAAA</script>')
    expect(html).not.toContain('href="javascript:')
    expect(html).not.toContain('<img src=x')
    expect(html).not.toContain('onerror=alert(1)>')
    expect(html.match(/<section class="question"/g)).toHaveLength(1)
    expect(html).toContain(escapeHtml(NASTY))
  })
  it('has a policy that allows its own script and style and nothing else', async () => {
    const html = await studentPage(folio, { script: 'void 0', aids: 'void 1', style: 'p{}', icons: '' })
    const policy = /http-equiv="Content-Security-Policy" content="([^"]+)"/.exec(html)![1]!
    expect(policy).toContain(`default-src 'none'`)
    expect(policy).not.toMatch(/unsafe|\*|https?:/)
    const { createHash } = await import('node:crypto')
    const named = ['void 0', 'void 1'].map(text => `'sha256-${createHash('sha256').update(text).digest('base64')}'`)
    expect(policy).toContain(`script-src ${named.join(' ')};`)
  })
  it('has everything a student needs, with addresses that work from a folder', async () => {
    const html = await studentPage(folio, { script: '', aids: 'void 1', style: '', icons: '' })
    expect(html).toContain('src="videos/0%201.mp4"')
    for (const part of [
      'class="speed"',
      'class="captions"',
      'class="each"',
      'What is said and written',
      'What is asked',
      'A hint',
      'I am stuck here',
      'kind="captions"',
      'data-t="0"',
      'worksheet/a.pdf',
      'type="search"',
    ])
      expect(html).toContain(part)
    // It asks nothing of other hosts; a related lesson is a link that she may follow.
    expect(html.replace(/<a href="https[^>]+rel="noreferrer">/, '')).not.toMatch(/(src|href)="(https?:)?\/\//)
    expect(html).toContain('4 December 2026')
  })
  it('shows a question that is not released in its place, and of a hint what is still to come', async () => {
    const opens = '2026-12-04T07:30:00.000Z'
    const closed = { id: 'q0', number: NASTY, title: NASTY, opens }
    const [open] = folio.questions as PublishedQuestion[]
    const questions = [closed, { ...open!, hint: { fullFrom: opens } }]
    const html = await studentPage(
      { ...folio, questions, host: { takes: true, counts: false } },
      { script: '', aids: 'void 1', style: '', icons: '' },
    )
    expect(html).toMatch(/<section\s+class="closed"\s+id="q1"[^]*<section\s+class="question"\s+id="q2"/)
    expect(html.match(/<time datetime="2026-12-04T07:30:00.000Z">4 December 2026 at 07:30 UTC<\/time>/g)).toHaveLength(
      2,
    )
    expect(html).toContain('data-takes="messages"')
    expect(html).not.toContain('data-counts')
    expect(html).not.toContain('onerror=alert(1)>')
  })
  it('has practice beside its question once that is there whole, else not yet; what belongs to none comes at the end', async () => {
    const [open] = folio.questions as PublishedQuestion[]
    const next = [
      { id: 'n1', text: 'Beside it', answer: '1', hint: '', questionId: open!.id },
      { id: 'n2', text: 'At the end', answer: '2', hint: '' },
      { id: 'n3', text: 'Of one that is gone', answer: '3', hint: '', questionId: 'gone' },
    ]
    const made = async (question: PublishedQuestion) =>
      studentPage(
        { ...folio, questions: [question], plan: { ...folio.plan, next } },
        { script: '', aids: 'void 1', style: '', icons: '' },
      )
    const [inQuestion, atEnd] = (await made(open!)).split('id="practice"')
    expect([/Now you[^]*Beside it/.test(inQuestion!), inQuestion!.includes('At the end')]).toEqual([true, false])
    expect([atEnd!.includes('At the end'), atEnd!.includes('Of one that is gone')]).toEqual([true, true])
    const hint = await made({ ...open!, hint: { fullFrom: '2026-12-04T07:30:00.000Z' } })
    expect(hint).not.toContain('Beside it')
  })
  it('has chapters and captions beside the video', () => {
    expect(sidecars(folio.questions[0] as PublishedQuestion).map(s => s.path)).toEqual([
      'videos/01.chapters.vtt',
      'videos/01.captions.vtt',
    ])
  })
})
