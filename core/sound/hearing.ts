import { levelOf } from './peaks'

/** What a few seconds of a microphone tell. Levels in dBFS. */
export interface Hearing {
  seconds: number
  /** The loudest sample. */
  peak: number
  /** Level of the quietest and of the loudest tenth of the time: the room, and the voice. */
  noise: number
  voice: number
  /** Mains hum with its overtones, as loud as in its quietest second; null where there is none. */
  hum: { hz: 50 | 60; level: number } | null
  /** Stretches in which the signal stood at full scale. */
  clipped: number
}

/** Length of the blocks whose level is taken, s. */
const BLOCK_S = 0.05
/** Samples in a row at full scale that are a clipped stretch, as loudness meters count it. */
const CLIPPED_RUN = 3
const FULL_SCALE = 32_700
/** Hum below this is not heard. dBFS */
const HUM_HEARD = -58
/** Hum stands out of what lies some hertz beside it by this much, as power. */
const STANDS_OUT = 8
/** Beside the hum, Hz; whole numbers, at which a steady tone of one second leaves nothing. */
const BESIDE = [-9, -6, 6, 9]

/** Counts stretches at full scale over pieces of sound. */
export class ClipCounter {
  stretches = 0
  private run = 0
  push(pcm: Int16Array): void {
    for (const s of pcm) {
      this.run = Math.abs(s) >= FULL_SCALE ? this.run + 1 : 0
      if (this.run === CLIPPED_RUN) this.stretches++
    }
  }
}

/** Power of one frequency in a block, as a share of full scale squared (Goertzel's algorithm). */
export function toneLevel(pcm: Int16Array, rate: number, hz: number): number {
  const w = (2 * Math.PI * hz) / rate
  const c = 2 * Math.cos(w)
  let a = 0,
    b = 0
  for (const s of pcm) [a, b] = [s / 32768 + c * a - b, a]
  const power = a * a + b * b - c * a * b
  return (2 * power) / pcm.length ** 2
}

/** Listens to a microphone for a few seconds before a take. */
export class HearingTest {
  private readonly levels: number[] = []
  private readonly hums: Record<50 | 60, { power: number; beside: number }>[] = []
  private readonly clips = new ClipCounter()
  private block: number[] = []
  private second: number[] = []
  private peak = 0
  private samples = 0
  private rate = 48_000

  /** @param pcm mono samples; @param rate Hz */
  push(pcm: Int16Array, rate: number): void {
    this.rate = rate
    this.clips.push(pcm)
    this.samples += pcm.length
    for (const s of pcm) {
      if (Math.abs(s) > this.peak) this.peak = Math.abs(s)
      this.block.push(s)
      this.second.push(s)
      if (this.block.length >= rate * BLOCK_S) {
        this.levels.push(levelOf(Int16Array.from(this.block)))
        this.block = []
      }
      if (this.second.length >= rate) {
        const all = Int16Array.from(this.second)
        const series = (hz: number) => ({
          power: [1, 2, 3].reduce((sum, k) => sum + toneLevel(all, rate, hz * k), 0),
          beside:
            Math.max(...BESIDE.map(off => toneLevel(all, rate, hz + off))) / Math.max(1e-15, toneLevel(all, rate, hz)),
        })
        this.hums.push({ 50: series(50), 60: series(60) })
        this.second = []
      }
    }
  }

  get seconds(): number {
    return this.samples / this.rate
  }

  result(): Hearing {
    const sorted = [...this.levels].sort((a, b) => a - b)
    const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? -100
    return {
      seconds: this.seconds,
      peak: this.peak ? 20 * Math.log10(this.peak / 32768) : -100,
      noise: at(0.1),
      voice: at(0.9),
      hum: this.hum(),
      clipped: this.clips.stretches,
    }
  }

  /** Hum goes on through words and pauses; a voice on the same pitch does not. */
  private hum(): Hearing['hum'] {
    for (const hz of [50, 60] as const) {
      const level = 10 * Math.log10(Math.min(...this.hums.map(h => h[hz].power)) + 1e-12)
      if (this.hums.length && level > HUM_HEARD && this.hums.every(h => h[hz].beside * STANDS_OUT < 1))
        return { hz, level }
    }
    return null
  }
}

/** One line of the check before a take. */
export interface Finding {
  id: string
  state: 'holds' | 'warns' | 'fails'
  says: string
  mend: string
}

const HEADSET = /headset|headphone|hands-?free|earbud|lavalier|usb|wireless|bluetooth/i
const BUILT_IN = /built-?in|internal|array|default|integrated/i
const LOOPBACK = /monitor of|stereo mix|loopback|what u hear/i

/**
 * Whether a microphone is the one that is meant, by the names that devices give themselves.
 * @param connected whether it is there; @param chosen whether she chose it herself; @param others names of the others
 * that are connected
 * @returns null where nothing speaks against it
 */
export function deviceFinding(
  label: string,
  connected: boolean,
  chosen: boolean,
  others: readonly string[],
): Finding | null {
  if (!connected)
    return {
      id: 'device',
      state: 'fails',
      says: `${label} is not connected.`,
      mend: 'Plug it in, or choose another one above.',
    }
  if (LOOPBACK.test(label))
    return {
      id: 'device',
      state: 'fails',
      says: `${label} is what the machine plays, not a microphone.`,
      mend: 'Choose another one above.',
    }
  const better = others.find(o => HEADSET.test(o) && !LOOPBACK.test(o))
  if (better && BUILT_IN.test(label) && !HEADSET.test(label))
    return {
      id: 'device',
      state: 'warns',
      says: `${better} is connected, too.`,
      mend: 'If you speak into that one, choose it above.',
    }
  const other = others.find(o => !LOOPBACK.test(o))
  return !chosen && other
    ? {
        id: 'device',
        state: 'warns',
        says: `${label} is listened to; ${other} is connected, too.`,
        mend: 'Choose the one you speak into.',
      }
    : null
}

/** What is to be said of a microphone: the gravest first; one line that holds where nothing is wrong. */
export function hearingFindings(h: Hearing): Finding[] {
  const found: Finding[] = []
  const add = (id: string, state: Finding['state'], says: string, mend: string) => {
    found.push({ id, state, says, mend })
  }
  if (h.peak < -70)
    add('silent', 'fails', 'Nothing is heard.', 'It may be muted, or the wrong microphone. Choose another one.')
  else {
    if (h.clipped > 0)
      add(
        'clipping',
        'warns',
        'The voice is too loud and is cut off.',
        'Turn the microphone down, or move away a little.',
      )
    if (h.hum)
      add(
        'hum',
        'warns',
        `It hums at ${h.hum.hz} Hz.`,
        'Move the cable away from power supplies, or use another socket.',
      )
    if (h.noise > -42 && !h.hum)
      add('noise', 'warns', 'The room is loud.', 'Close the window, or come nearer to the microphone.')
    if (h.voice < -45 || h.voice - h.noise < 8)
      add(
        'quiet',
        'warns',
        h.voice < -45 ? 'It is very quiet.' : 'No voice was heard.',
        'Say a sentence at the strength in which you will speak; come nearer if the bar stays left.',
      )
  }
  if (!found.length) add('voice', 'holds', 'The microphone is heard.', '')
  return found
}
