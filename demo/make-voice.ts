/**
 * Makes the spoken sound of the sample folio with Debian's flite and ffmpeg, once: `npx tsx demo/make-voice.ts`.
 * What it makes is shipped (demo/voice), so that nobody else needs a synthesiser.
 */
import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { LESSONS } from './lessons'
import { simulateTake, type Durations } from './take'
import { PLACES } from './worksheet'

const here = new URL('.', import.meta.url).pathname
const work = mkdtempSync(join(tmpdir(), 'voice-'))
const RATE = 48_000

/** Speaks a sentence. @returns mono samples at 48 kHz */
function speak(text: string, n: number): Int16Array {
  const raw = join(work, `${n}.wav`)
  execFileSync('flite', ['-voice', 'slt', '--setf', 'duration_stretch=1.08', '-t', text, '-o', raw])
  const pcm = execFileSync('ffmpeg', ['-v', 'error', '-i', raw, '-ar', String(RATE), '-ac', '1', '-f', 's16le', '-'], {
    maxBuffer: 1 << 28,
  })
  return new Int16Array(pcm.buffer, pcm.byteOffset, pcm.length / 2)
}

function encode(pcm: Int16Array, name: string) {
  execFileSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-y',
      '-f',
      's16le',
      '-ar',
      String(RATE),
      '-ac',
      '1',
      '-i',
      '-',
      '-c:a',
      'libopus',
      '-b:a',
      '28k',
      '-map_metadata',
      '-1',
      '-fflags',
      '+bitexact',
      join(here, 'voice', `${name}.ogg`),
    ],
    { input: Buffer.from(pcm.buffer, pcm.byteOffset, pcm.byteLength) },
  )
}

const durations: Durations = {}
let n = 0
for (const lesson of LESSONS) {
  const spoken = lesson.steps.flatMap(s => s.beats).map(b => speak(b.say, n++))
  durations[lesson.name] = spoken.map(s => Math.round((s.length / RATE) * 1000))
  const take = await simulateTake(lesson, durations[lesson.name]!, PLACES[lesson.place]!.box)
  const sound = new Int16Array(Math.round((take.durationMs / 1000) * RATE))
  take.sentences.forEach((sentence, i) => sound.set(spoken[i]!, Math.round((sentence.at / 1000) * RATE)))
  encode(sound, lesson.name)
}

// What the simulated microphone says: a lesson that fits any question, with breaths between its sentences.
const SCRIPT = [
  'Let us read the question first and see what is asked.',
  'We mark what is given, and write it down with its units.',
  'Now we line the numbers up and work from the right.',
  'Does the size of the result make sense? Yes, it does.',
  'So here is the answer, and I write it with its unit.',
]
const parts = SCRIPT.map(s => speak(s, n++))
const script = new Int16Array(parts.reduce((sum, p) => sum + p.length + RATE * 0.7, RATE * 0.3))
let at = RATE * 0.3
for (const part of parts) {
  script.set(part, at)
  at += part.length + RATE * 0.7
}
encode(script, 'lesson')
writeFileSync(join(here, 'voice', 'durations.json'), JSON.stringify(durations, null, 1) + '\n')
console.log(readFileSync(join(here, 'voice', 'durations.json'), 'utf8'))
