import { nextTick } from 'vue'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { useFolio } from '../../app/stores/folio'
import { useNotices } from '../../app/stores/notices'
import { useProof } from '../../app/stores/proof'
import { useRecording } from '../../app/stores/recording'
import { useSettings } from '../../app/stores/settings'
import { db } from '../../app/data/db'
import { saveFolio } from '../../app/data/folios'
import { readLog, unfinishedTakes } from '../../app/data/takes'
import { folio, question } from '../support/make'
import { sound } from './devices'
import { failing } from './workers'

const frame = { pageId: 'p1', box: { x: 0, y: 0, w: 160, h: 90 } }
const wait = (ms: number) => new Promise(r => setTimeout(r, ms))
const pen = (x: number) => ({ x, y: 10, pressure: 0.5, now: performance.now() })
function write(recording: ReturnType<typeof useRecording>, x: number) {
  recording.desk.penDown('working', 'pen', pen(x))
  recording.desk.penMove([pen(x + 5)])
  recording.desk.penUp()
}
const { put } = IDBObjectStore.prototype
/** The store cannot take any more, until there is room again. */
function full() {
  IDBObjectStore.prototype.put = () => {
    throw new DOMException('The quota has been exceeded.', 'QuotaExceededError')
  }
}
const makeRoom = () => {
  IDBObjectStore.prototype.put = put
}

async function begin(seconds = 0) {
  await saveFolio(folio({ questions: [question('q1', '1'), question('q2', '2')] }))
  const store = useFolio(),
    recording = useRecording()
  await store.open('f1')
  const started = recording.start(store.questions[0]!, frame, { kind: 'plain' }, seconds)
  if (!seconds) await started
  return { store, recording, started }
}

beforeEach(() => {
  Object.assign(useSettings().remembered, { microphone: 'sim:voice', countdown: 0, nextCountdown: 0 })
  Object.assign(sound, { refused: false })
  failing.clear()
  makeRoom()
})

describe('a take', () => {
  it('runs, pauses, goes on and becomes its question’s, with ink and steps', async () => {
    const { store, recording } = await begin()
    expect(recording.state).toBe('running')
    write(recording, 10)
    sound.push(performance.now())
    recording.pauseOrGoOn()
    expect(recording.state).toBe('paused')
    expect(recording.desk.penDown('working', 'pen', pen(1))).toBeNull()
    await wait(20)
    recording.pauseOrGoOn()
    await wait(300)
    recording.markStep()
    await wait(300)
    write(recording, 30)
    const take = await recording.stop()
    expect(recording.state).toBe('rest')
    const q = store.questions[0]!
    expect(q.ledger!.takeId).toBe(take!.id)
    expect(q.ledger!.steps).toHaveLength(2)
    expect((await readLog(take!.id)).map(e => e.type)).toEqual(['stroke', 'pause', 'step', 'stroke'])
    expect(await unfinishedTakes()).toEqual([])
    const proof = useProof()
    await proof.open(q)
    expect(proof.edition!.chapters()).toHaveLength(2)
    expect(proof.edition!.boardAt(proof.duration).strokes).toHaveLength(2)
    proof.editStep(q.ledger!.steps[0]!.id, 'strike out a step', s => {
      s.struck = true
    })
    await nextTick()
    expect(proof.edition!.boardAt(proof.duration).strokes).toHaveLength(1)
    expect(store.questions[0]!.ledger!.steps[0]!.struck).toBe(true)
    expect(q.ledger!.steps[0]!.struck).toBe(false)
    store.undo()
    await nextTick()
    expect(proof.edition!.boardAt(proof.duration).strokes).toHaveLength(2)
  })
  it('goes back a step, and what came since is struck', async () => {
    const { store, recording } = await begin()
    write(recording, 5)
    await wait(300)
    recording.markStep()
    write(recording, 10)
    await wait(300)
    await recording.goBack()
    expect([recording.state, recording.desk.now().strokes.length, recording.steps.length]).toEqual(['running', 1, 1])
    await wait(300)
    await recording.stop()
    expect(store.questions[0]!.ledger!.steps.map(s => s.struck)).toEqual([false, true, false])
  })
  it('stopped while it counts does not begin, and leaves nothing', async () => {
    const { recording, started } = await begin(5)
    expect(recording.state).toBe('counting')
    expect(await recording.stop()).toBeNull()
    await started
    expect([recording.state, recording.takeDesk, await db.takes.count()]).toEqual(['rest', null, 0])
  })
  it('with a microphone that is refused does not begin, and says so', async () => {
    sound.refused = true
    const { recording } = await begin()
    expect([recording.state, useNotices().troubles.length]).toEqual(['rest', 1])
    sound.refused = false
    await recording.start(useFolio().questions[0]!, frame, { kind: 'plain' }, 0)
    expect(recording.state).toBe('running')
    write(recording, 10)
    await recording.stop()
  })
  it('goes on without a microphone that is gone, and says so', async () => {
    const { recording } = await begin()
    sound.lose()
    expect([recording.state, recording.warnings.map(w => w.fault)]).toEqual(['running', ['lost']])
    await recording.plugInAgain()
    expect(recording.warnings).toEqual([])
    write(recording, 10)
    await recording.stop()
  })
  it('does not begin where the microphone is lost while it counts down, and says so', async () => {
    const { recording, started } = await begin(5)
    await wait(200)
    sound.lose()
    await started
    expect([recording.state, await db.takes.count()]).toEqual(['rest', 0])
    expect(useNotices().troubles.map(t => t.trouble.code)).toEqual(['microphone-lost'])
  })
  it('says that the microphone is lost until it is back: also where that was in a pause, or while it went back', async () => {
    for (const where of ['pause', 'back'] as const) {
      const { recording } = await begin()
      write(recording, 10)
      if (where === 'pause') recording.pauseOrGoOn()
      else {
        useSettings().remembered.countdown = 1
        void recording.goBack()
      }
      sound.lose()
      if (where === 'pause') recording.pauseOrGoOn()
      await vi.waitFor(() => expect(recording.state).toBe('running'), 3000)
      await wait(600)
      expect(
        recording.warnings.map(w => w.fault),
        where,
      ).toEqual(['lost'])
      useSettings().remembered.countdown = 0
      write(recording, 20)
      await recording.stop()
      useFolio().close()
    }
  })
  it('does not take the place of one in use by itself; one without ink is never chosen', async () => {
    const { store, recording } = await begin()
    const notices = useNotices()
    const record = async (ink: boolean, answer: string | null) => {
      if (recording.state === 'rest') await recording.start(store.questions[0]!, frame, { kind: 'plain' }, 0)
      if (ink) write(recording, 10)
      await wait(50)
      const ending = recording.stop()
      if (ink === (store.questions[0]!.ledger !== null)) {
        await vi.waitFor(() => expect(notices.prompt).not.toBeNull())
        notices.prompt!.answer(answer)
      }
      return (await ending)!.id
    }
    await record(false, null)
    expect(store.questions[0]!.ledger).toBeNull()
    const first = await record(true, null)
    expect(store.questions[0]!.ledger!.takeId).toBe(first)
    await record(true, null)
    await record(false, null)
    expect(store.questions[0]!.ledger!.takeId).toBe(first)
    const last = await record(true, '')
    expect(store.questions[0]!.ledger!.takeId).toBe(last)
    expect([store.takesOf('q1').length, await unfinishedTakes()]).toEqual([5, []])
  })
  it('ends once, however often Stop is pressed', async () => {
    const { store, recording } = await begin()
    write(recording, 10)
    const ended = await Promise.all([recording.stop(), recording.stop(), recording.stop()])
    expect(ended.filter(Boolean)).toHaveLength(1)
    expect([store.questions[0]!.shelved, recording.state]).toEqual([[], 'rest'])
  })
  it('is handed over to the next question’s; both are kept', async () => {
    const { store, recording } = await begin()
    write(recording, 10)
    expect(await recording.goOnWith(store.questions[1]!, frame, async () => {})).toBe(true)
    expect([recording.state, recording.desk.now().strokes.length]).toEqual(['running', 0])
    write(recording, 20)
    await recording.stop()
    await vi.waitFor(() => expect(recording.settling).toEqual([]))
    expect(store.questions.map(q => q.ledger !== null)).toEqual([true, true])
  })
  it('of a practice leaves nothing', async () => {
    const { recording } = await begin()
    write(recording, 10)
    await recording.stop()
    const before = await db.takes.count()
    await recording.start(useFolio().questions[1]!, frame, { kind: 'practice' }, 0)
    write(recording, 10)
    expect(await recording.stop()).toBeNull()
    expect([recording.state, await db.takes.count()]).toEqual(['rest', before])
  })
})

describe('a take that cannot be stored', () => {
  it('goes on in memory, and is whole once there is room', async () => {
    const { store, recording } = await begin()
    full()
    write(recording, 10)
    await vi.waitFor(() => expect(recording.room).toBe('none'))
    expect(await recording.goOnWith(store.questions[1]!, frame, async () => {})).toBe(false)
    expect(await recording.stop()).toBeNull()
    expect(recording.state).toBe('unstored')
    makeRoom()
    const take = await recording.stop()
    expect([recording.state, (await readLog(take!.id)).length]).toEqual(['rest', 1])
  })
  it('can be left; what is stored of it is offered again', async () => {
    const { store, recording } = await begin()
    write(recording, 10)
    await vi.waitFor(async () => expect(await db.journal.count()).toBe(1))
    failing.add('finish')
    await recording.stop()
    expect(recording.state).toBe('unstored')
    recording.giveUp()
    expect([recording.state, store.questions[0]!.ledger]).toEqual(['rest', null])
    expect(await unfinishedTakes()).toHaveLength(1)
  })
})

describe('the rehearsal', () => {
  it('is a desk like a take’s, and is cleared by what follows', async () => {
    const { recording } = await begin()
    write(recording, 5)
    await recording.stop()
    write(recording, 10)
    expect(recording.desk.now().strokes).toHaveLength(1)
    recording.undo()
    expect(recording.desk.now().strokes).toHaveLength(0)
    recording.redo()
    recording.clearRehearsal()
    expect([recording.desk.now().strokes.length, recording.canRedo]).toEqual([0, false])
  })
})
