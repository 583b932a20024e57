/**
 * Makes the sample folio *Balloon Day* from the worksheet, the simulated hand and the shipped voice, and puts it where
 * the
 * application serves it (public/demo), beside what the simulated microphone plays (public/sim). Run by the build.
 */
import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { archiveBlob } from '../core/folio/archive'
import { frameOf } from '../core/folio/frame'
import { Folio, FOLIO_SCHEMA, Question } from '../core/folio/model'
import { Page } from '../core/folio/page'
import { folioFiles, type WholeTake } from '../core/publish/folioFile'
import { LESSONS, type Lesson } from './lessons'
import { simulateTake, type Durations } from './take'
import { makeWorksheet, optionBox, PLACES, SHEET } from './worksheet'

const root = join(new URL('.', import.meta.url).pathname, '..')
const MADE_AT = '2026-10-01T08:00:00.000Z'

const PLAN = {
  lesson: 'Lesson 4: how high, how fast, how cold',
  due: '2026-10-09',
  bring: 'The balloon log sheet, squared paper, a ruler',
  skipped: [{ questionId: 'question-6', why: 'We measure it ourselves on Balloon Day.' }],
  next: [
    {
      id: 'next-1',
      questionId: 'question-2',
      text: 'A second balloon rises 294 m in every minute. How high is it after 35 minutes?',
      answer: '10 290 m',
    },
    { id: 'next-2', text: 'Solve 5x - 12 = 3x + 20.', answer: 'x = 16' },
  ],
  related: [{ id: 'related-1', title: 'Lesson 3: the air above us', address: 'https://class.example/air' }],
}

/** The folio with its takes; the same every time. @param only what of a lesson is recorded; null for nothing */
export async function makeDemoFolio(only: (lesson: Lesson) => Lesson | null = lesson => lesson) {
  const pdf = await makeWorksheet()
  const durations: Durations = JSON.parse(readFileSync(join(root, 'demo/voice/durations.json'), 'utf8'))
  const pages = [0, 1].map(index =>
    Page.parse({
      id: `page-${index + 1}`,
      kind: 'pdf',
      documentId: 'worksheet',
      index,
      width: SHEET.width,
      height: SHEET.height,
    }),
  )
  const takes: WholeTake[] = []
  const questions: Question[] = []
  for (const [i, place] of PLACES.entries()) {
    const question = Question.parse({
      id: `question-${place.number}`,
      number: place.number,
      title: place.title,
      marks: place.marks,
      answer: place.answer,
      letters: 11.5,
      regions: [{ id: `region-${place.number}`, pageId: pages[place.page]!.id, box: place.box }],
      options: place.options?.map((text, k) => ({
        id: `option-${place.number}-${text[0]}`,
        label: text[0],
        text: text.slice(1).trim(),
        place: { pageId: pages[place.page]!.id, box: optionBox(k) },
      })),
    })
    const written = LESSONS.find(l => l.place === i)
    const lesson = written && only(written)
    if (!lesson) {
      questions.push(question)
      continue
    }
    const simulated = await simulateTake(lesson, durations[lesson.name]!, place.box)
    const sound = new Blob([new Uint8Array(readFileSync(join(root, `demo/voice/${lesson.name}.ogg`)))], {
      type: 'audio/ogg',
    })
    const takeId = `take-${place.number}`
    takes.push({
      take: {
        id: takeId,
        folioId: 'balloon-day',
        questionId: question.id,
        startedAt: MADE_AT,
        durationMs: simulated.durationMs,
        state: 'whole',
        frame: frameOf(question, pages)!,
        microphone: 'Simulated voice',
        pen: 'Simulated hand',
        gaps: [],
      },
      events: simulated.events,
      sound,
    })
    questions.push({
      ...question,
      ledger: {
        takeId,
        turns: simulated.events.flatMap(e =>
          e.type === 'turn' ? [{ id: e.id, t: e.t, seconds: e.seconds, hold: e.hold }] : [],
        ),
        steps: simulated.steps.map((s, k) => ({ id: `${takeId}-step-${k + 1}`, ...s })),
      },
    })
  }
  const folio = Folio.parse({
    schema: FOLIO_SCHEMA,
    id: 'balloon-day',
    title: 'Balloon Day',
    course: 'Science club, year 8',
    author: 'A. Teacher',
    createdAt: MADE_AT,
    updatedAt: MADE_AT,
    documents: [
      {
        id: 'worksheet',
        name: 'balloon-day-worksheet.pdf',
        mime: 'application/pdf',
        bytes: pdf.length,
        pageCount: 2,
        password: '',
      },
    ],
    pages,
    questions,
    plan: PLAN,
  })
  return {
    folio,
    documents: new Map([['worksheet', new Blob([pdf as Uint8Array<ArrayBuffer>], { type: 'application/pdf' })]]),
    takes,
  }
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
