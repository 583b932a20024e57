import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useFolio } from '../../app/stores/folio'
import { nextTick } from 'vue'
import { useLedger } from '../../app/stores/ledger'
import { useProof } from '../../app/stores/proof'
import { usePublish } from '../../app/stores/publish'
import { useNotices } from '../../app/stores/notices'
import { saveFolio } from '../../app/data/folios'
import { putTake, storeSettled, takeSink } from '../../app/data/takes'
import type { Ledger, Take } from '../../core/folio'
import { folio, line, question } from '../support/make'
import { failing } from './workers'

const frame = { pageId: 'p1', box: { x: 0, y: 0, w: 160, h: 90 } }
const ledger = (takeId: string): Ledger => ({
  takeId,
  turns: [{ id: 'u', t: 100, seconds: 30, hold: 1 }],
  steps: [
    [0, false],
    [200, true],
    [700, false],
  ].map(([t, struck], i) => ({ id: `s${i}`, t, title: `Step ${i}`, words: '', struck }) as Ledger['steps'][number]),
})
const take = (id: string): Take => ({
  id,
  folioId: 'f1',
  questionId: 'q1',
  startedAt: '2026-11-27T10:00:00.000Z',
  durationMs: 1000,
  state: 'whole',
  frame,
  microphone: '',
  pen: '',
  gaps: [],
})

beforeEach(async () => {
  failing.clear()
  for (const id of ['t1', 't2']) {
    await putTake(take(id))
    await takeSink(id).journal(0, [line(`${id}-a`, 50), line(`${id}-slip`, 300), line(`${id}-b`, 800)])
    await storeSettled(take(id), new Blob(['sound'], { type: 'audio/wav' }), new Uint8Array(4), null)
  }
  await saveFolio(
    folio({
      questions: [
        question('q1', '1', { title: 'Rates', ledger: ledger('t1'), shelved: [ledger('t2')] }),
        question('q2', '2'),
      ],
    }),
  )
  await useFolio().open('f1')
})
const ids = (strokes: readonly { of: string }[]) => strokes.map(s => s.of)

describe('proofing', () => {
  it('plays as students will get it: holds still, leaps over what is struck, stops at the end', async () => {
    const proof = useProof(),
      store = useFolio()
    await proof.open(store.questions[0]!)
    expect([proof.ready, proof.edition!.duration]).toEqual([true, 1500])
    const seen = new Set<number>()
    let held = 0
    await proof.play()
    await vi.waitFor(
      () => {
        seen.add(Math.floor(proof.moment.t / 100))
        if (proof.holding) held = Math.max(held, proof.holding.left)
        expect(proof.playing).toBe(false)
      },
      { timeout: 8000, interval: 4 },
    )
    expect(held).toBeGreaterThan(0.5)
    expect([...seen].filter(n => n > 2 && n < 7)).toEqual([])
    expect(proof.time).toBe(1500)
  })
  it('shows a struck step as it was in the take, and the rest without it', async () => {
    const proof = useProof()
    await proof.open(useFolio().questions[0]!)
    proof.goTo({ take: 't1', t: 500 })
    expect([proof.row, ids(proof.board.strokes)]).toEqual([1, ['t1-a', 't1-slip']])
    proof.goTo({ take: 't1', t: 950 })
    expect([proof.row, ids(proof.board.strokes)]).toEqual([2, ['t1-a', 't1-b']])
    proof.toRow(-1)
    expect(proof.row).toBe(1)
    const ledger = useLedger()
    ledger.addTurn(850, 60, 2)
    ledger.editTurn('u', { hold: 0 })
    await nextTick()
    expect(proof.edition!.turns().map(t => t.to - t.t)).toEqual([0, 2000])
    ledger.editTurn('u', null)
    expect(proof.ledger!.turns).toHaveLength(1)
  })
  it('compares takes by their editions, and puts another in use; undo puts the first back', async () => {
    const proof = useProof(),
      store = useFolio()
    await proof.open(store.questions[0]!)
    const { edition } = await proof.comparable(store.questions[0]!, store.takes.find(t => t.id === 't2')!)
    expect(ids(edition.boardAt(edition.duration).strokes)).toEqual(['t2-a', 't2-b'])
    await proof.useTake(store.takes.find(t => t.id === 't2')!)
    expect([store.questions[0]!.ledger!.takeId, proof.take!.id]).toEqual(['t2', 't2'])
    store.undo()
    expect(store.questions[0]!.ledger!.takeId).toBe('t1')
  })
  it('of a question without a take has nothing to show', async () => {
    const proof = useProof()
    await proof.open(useFolio().questions[1]!)
    expect([proof.ready, proof.edition, proof.board.strokes]).toEqual([false, null, []])
    await proof.play()
    expect(proof.playing).toBe(false)
  })
})

describe('publishing', () => {
  it('renders what is recorded, and knows when a video is no longer what the folio says', async () => {
    const publish = usePublish(),
      store = useFolio(),
      proof = useProof()
    await publish.findContainers()
    expect(publish.containers).toEqual(['mp4', 'webm'])
    expect(publish.recorded.map(q => q.id)).toEqual(['q1'])
    await publish.render(publish.recorded, true)
    expect(publish.tasks.map(t => [t.key, t.state])).toEqual([
      ['q1', 'done'],
      ['whole', 'done'],
    ])
    expect(publish.videos.map(v => [v.publication.questionId, v.publication.durationMs, v.fresh])).toEqual([
      ['q1', 1500, true],
      [null, 1500, true],
    ])
    expect(store.stages.get('q1')).not.toBe(store.stages.get('q2'))
    await proof.open(store.questions[0]!)
    proof.editStep('s1', 'bring a step back', s => {
      s.struck = false
    })
    expect(publish.videos.map(v => v.fresh)).toEqual([false, false])
    store.undo()
    expect(publish.videos.map(v => v.fresh)).toEqual([true, true])
    await publish.remove(publish.videos[0]!.publication)
    expect(publish.videos).toHaveLength(1)
  })
  it('that fails is told, and what else was asked for is made', async () => {
    const publish = usePublish()
    failing.add('render')
    await publish.render(publish.recorded, false)
    expect([publish.tasks.map(t => t.state), useNotices().troubles.length, publish.videos]).toEqual([['failed'], 1, []])
    failing.clear()
    await publish.render(publish.recorded, false)
    expect(publish.videos).toHaveLength(1)
  })
  it('of nothing but struck steps is refused in a sentence', async () => {
    const publish = usePublish(),
      store = useFolio()
    store.setLedger('q1', 'strike all', {
      ...ledger('t1'),
      steps: ledger('t1').steps.map(s => ({ ...s, struck: true })),
    })
    await publish.render(publish.recorded, false)
    expect(useNotices().troubles[0]!.trouble.message).toContain('Every step of 1 — Rates is struck out.')
  })
})
