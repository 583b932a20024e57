/**
 * Makes the sample folio *Balloon Day* from the worksheet, the simulated hand and the shipped voice, and puts it where the
 * application serves it (public/demo), beside what the simulated microphone plays (public/sim). Run by the build.
 */
import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { archiveBlob } from '../core/folio/archive'
import { frameOf } from '../core/folio/frame'
import { FOLIO_SCHEMA, type Folio, type Question } from '../core/folio/model'
import { folioFiles, type WholeTake } from '../core/publish/folioFile'
import { LESSONS } from './lessons'
import { simulateTake, type Durations } from './take'
import { makeWorksheet, PLACES, SHEET } from './worksheet'

const root = join(new URL('.', import.meta.url).pathname, '..')
const MADE_AT = '2026-10-01T08:00:00.000Z'

/** The folio with its takes; the same every time. */
export async function makeDemoFolio() {
  const pdf = await makeWorksheet()
  const durations: Durations = JSON.parse(readFileSync(join(root, 'demo/voice/durations.json'), 'utf8'))
  const pages = [0, 1].map(index => ({ id: `page-${index + 1}`, kind: 'pdf' as const, documentId: 'worksheet', index, width: SHEET.width, height: SHEET.height }))
  const takes: WholeTake[] = []
  const questions = PLACES.map((place, i): Question => {
    const question: Question = {
      id: `question-${place.number}`, number: place.number, title: place.title,
      regions: [{ id: `region-${place.number}`, pageId: pages[place.page]!.id, box: place.box }], ledger: null, proofed: false,
    }
    const lesson = LESSONS.find(l => l.place === i)
    if (!lesson) return question
    const simulated = simulateTake(lesson, durations[lesson.name]!, place.box)
    const sound = new Blob([new Uint8Array(readFileSync(join(root, `demo/voice/${lesson.name}.ogg`)))], { type: 'audio/ogg' })
    const takeId = `take-${place.number}`
    takes.push({
      take: { id: takeId, folioId: 'balloon-day', questionId: question.id, startedAt: MADE_AT, durationMs: simulated.durationMs, state: 'whole', frame: frameOf(question, pages)!, microphone: 'Simulated voice', pen: 'Simulated hand', gaps: [] },
      events: simulated.events, sound,
    })
    return { ...question, ledger: { takeId, steps: simulated.steps.map((s, k) => ({ id: `${takeId}-step-${k + 1}`, ...s })) } }
  })
  const folio: Folio = {
    schema: FOLIO_SCHEMA, id: 'balloon-day', title: 'Balloon Day', course: 'Science club, year 8', author: 'A. Teacher', createdAt: MADE_AT, updatedAt: MADE_AT,
    documents: [{ id: 'worksheet', name: 'balloon-day-worksheet.pdf', mime: 'application/pdf', bytes: pdf.length, pageCount: 2, password: '' }],
    pages, questions,
  }
  return { folio, documents: new Map([['worksheet', new Blob([pdf as Uint8Array<ArrayBuffer>], { type: 'application/pdf' })]]), takes }
}

if (process.argv[1]?.endsWith('make.ts')) {
  const whole = await makeDemoFolio()
  const archive = await archiveBlob(folioFiles(whole))
  mkdirSync(join(root, 'public/demo'), { recursive: true })
  mkdirSync(join(root, 'public/sim'), { recursive: true })
  writeFileSync(join(root, 'public/demo/balloon-day.folio'), new Uint8Array(await archive.arrayBuffer()))
  copyFileSync(join(root, 'demo/voice/lesson.ogg'), join(root, 'public/sim/lesson.ogg'))
  console.log(`Balloon Day: ${whole.takes.length} takes, ${Math.round(archive.size / 1024)} kB`)
}
