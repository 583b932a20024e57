import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Question } from '../core/folio'
import { archiveBlob } from '../core/folio/archive'
import { folioFiles, type WholeTake } from '../core/publish'
import { makeDemoFolio } from '../demo/make'
import { makeLesson } from './lesson'

/** Questions of the folio, and minutes of each. */
const QUESTIONS = 20
const MINUTES = 3
const TITLE = 'An hour'

/** A voice of three minutes, as it is recorded: FLAC, 48 kHz. */
function voice(): Blob {
  const dir = mkdtempSync(join(tmpdir(), 'orthograph-hour-'))
  const file = join(dir, 'voice.flac')
  const source = join(import.meta.dirname, '../demo/voice/lesson.ogg')
  const length = ['-t', String(MINUTES * 60), '-ac', '1', '-ar', '48000', '-sample_fmt', 's16']
  execFileSync('ffmpeg', ['-v', 'error', '-stream_loop', '-1', '-i', source, ...length, file])
  const sound = new Blob([new Uint8Array(readFileSync(file))], { type: 'audio/flac' })
  rmSync(dir, { recursive: true })
  return sound
}

/**
 * A folio of 20 questions, 60 minutes, 100,000 points of ink, on the sample's pages.
 * @returns with `originals`: bytes of what its pages were brought in from
 */
export async function hourFolio(): Promise<{ title: string; file: Blob; originals: number }> {
  const whole = await makeDemoFolio()
  const sound = voice()
  const places = whole.folio.questions
  const takes: WholeTake[] = []
  const questions: Question[] = Array.from({ length: QUESTIONS }, (_, i) => {
    const lesson = makeLesson(MINUTES, 100_000 / QUESTIONS, 3.5)
    const place = places[i % places.length]!
    const like = whole.takes[i % whole.takes.length]!
    const id = `hour-${i + 1}`
    const take = { ...like.take, id: `take-${id}`, questionId: id, durationMs: lesson.durationMs }
    // Written on the frame of the question whose take it takes the place of.
    const { box } = take.frame
    const [dx, dy] = [box.x - lesson.frame.x, box.y - lesson.frame.y]
    const moved = (v: number, k: number) => (k % 4 === 0 ? v + dx : k % 4 === 1 ? v + dy : v)
    const events = lesson.events.map(e => (e.type === 'stroke' ? { ...e, points: e.points.map(moved) } : e))
    takes.push({ take, events, sound })
    return { ...place, id, number: String(i + 1), options: [], ledger: { ...lesson.ledger, takeId: take.id } }
  })
  const folio = { ...whole.folio, id: 'hour', title: TITLE, questions, plan: { ...whole.folio.plan, next: [] } }
  const originals = [...whole.documents.values()].reduce((n, d) => n + d.size, 0)
  return { title: TITLE, file: await archiveBlob(folioFiles({ ...whole, folio, takes })), originals }
}
