import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { archiveBlob } from '../../core/folio'
import { folioFiles, type WholeFolio } from '../../core/publish'
import type { Lesson } from '../../demo/lessons'
import { makeDemoFolio } from '../../demo/make'

/**
 * Which beats of which steps of a lesson are kept: enough for every kind of thing that a video can hold, and no more.
 */
const KEPT: Record<string, [step: number, beats: number][]> = {
  'still-to-climb': [
    [0, 1],
    [1, 1],
    [3, 1],
    [6, 1],
  ],
  'height-after-46-minutes': [
    [0, 1],
    [2, 1],
  ],
  'half-the-pressure': [
    [0, 1],
    [3, 1],
  ],
  'bottles-of-helium': [
    [0, 1],
    [1, 1],
    [3, 1],
  ],
  'lift-and-weight': [
    [0, 1],
    [2, 1],
  ],
}

function shortened(lesson: Lesson, names: readonly string[]): Lesson | null {
  const kept = names.includes(lesson.name) && KEPT[lesson.name]
  return kept
    ? {
        ...lesson,
        steps: kept.map(([i, beats]) => ({ ...lesson.steps[i]!, beats: lesson.steps[i]!.beats.slice(0, beats) })),
      }
    : null
}

/**
 * The sample folio with short takes, each with as much of its voice as it is long, and the file of it.
 * @param names of the lessons that are recorded
 */
export async function makeShortLesson(
  names: readonly string[] = Object.keys(KEPT),
): Promise<WholeFolio & { file: Blob }> {
  const whole = await makeDemoFolio(lesson => shortened(lesson, names))
  const dir = mkdtempSync(join(tmpdir(), 'orthograph-short-'))
  const takes = await Promise.all(
    whole.takes.map(async t => {
      const [from, to] = [join(dir, `${t.take.id}.ogg`), join(dir, `${t.take.id}-short.ogg`)]
      writeFileSync(from, new Uint8Array(await t.sound!.arrayBuffer()))
      execFileSync('ffmpeg', ['-v', 'error', '-i', from, '-t', String(t.take.durationMs / 1000), '-c', 'copy', to])
      return { ...t, sound: new Blob([new Uint8Array(readFileSync(to))], { type: 'audio/ogg' }) }
    }),
  )
  rmSync(dir, { recursive: true })
  return { ...whole, takes, file: await archiveBlob(folioFiles({ ...whole, takes })) }
}

/** Three of its questions: a struck step, a pause for the student, a coloured line. */
export const THREE = ['still-to-climb', 'height-after-46-minutes', 'bottles-of-helium']
