import { ClipCounter } from './hearing'
import { levelOf } from './peaks'

/** What can go wrong with the sound of a running take. */
export type SoundFault = 'lost' | 'dropped' | 'mute' | 'clipping' | 'no-voice'
export interface SoundWarning {
  fault: SoundFault
  /** Machine time at which it began, ms. */ since: number
}

/** Sound is missing when its next piece begins this much later than the last one ended, ms. */
const DROP_MS = 120
/** Nothing has come for this long: the device is gone, ms. */
const LOST_MS = 1200
/** Exact zeros this long, from a microphone that has a noise of its own, are a loss, ms. */
const ZEROS_MS = 180
/** A signal below this is no signal, dBFS, and for this long it is muted, ms. */
const MUTE_LEVEL = -85
/**
 * A room without a voice is quieter than this, dBFS, and heard for at least this long, ms; a microphone with a gate
 * never gives it.
 */
const ROOM_LEVEL = -40
const ROOM_MS = 400
/** With a gate, silence between words is no sign of anything until this long, ms. */
const GATED_MUTE_MS = 10_000
const MUTE_MS = 1500
/** Stretches at full scale within a second that are clipping. */
const CLIPS = 3
/** Writing on without a word for this long is told, ms. */
const NO_VOICE_MS = 20_000
/** A warning about something that passes by itself stays this long, ms. */
const STAYS_MS = 4000
/** A word is this much louder than the room, dB. */
const VOICE_OVER_ROOM = 9

/**
 * Watches the sound of a take while it is recorded. Times are the machine's, ms. It is told what arrives, when it was
 * captured, and when
 * something is written; it tells what is wrong at the moment.
 */
export class SoundWatch {
  /** Losses so far, machine time, ms. */
  readonly drops: { from: number; to: number }[] = []
  private end: number | null = null
  private arrived: number
  private voiceAt: number
  private zeros = { from: 0, ms: 0, told: false }
  /**
   * How long the room has been heard without a voice, ms; and whether it ever was long enough to know that there is no
   * gate.
   */
  private roomMs = 0
  private open = false
  private quietSince: number | null = null
  private room = -60
  private inkAt = Number.NEGATIVE_INFINITY
  private inkSince = 0
  private clips = new ClipCounter()
  private clipBase = { at: 0, count: 0 }
  private readonly last = new Map<SoundFault, { since: number; at: number }>()

  /** @param began when the take begins */
  constructor(private readonly began: number) {
    this.arrived = began
    this.voiceAt = began
  }

  /** @param pcm mono samples; @param rate Hz; @param at machine time of the first one; @param now when they arrived */
  push(pcm: Int16Array, rate: number, at: number, now: number): void {
    if (this.end !== null && at - this.end > DROP_MS) this.drop(this.end, at, now)
    this.end = at + (pcm.length / rate) * 1000
    this.arrived = now
    const level = levelOf(pcm)
    this.lookForZeros(pcm, level, rate, at, now)
    this.hear(level, at, now)
    this.clips.push(pcm)
    if (now - this.clipBase.at > 1000) this.clipBase = { at: now, count: this.clips.stretches }
    if (this.clips.stretches - this.clipBase.count >= CLIPS) this.tell('clipping', now, now)
  }

  /** Ink was written. */
  wrote(now: number): void {
    if (now - this.inkAt > 5000) this.inkSince = now
    this.inkAt = now
  }

  /** A pause ended, or the clock was set back: what was missing meanwhile is no loss. */
  goOn(now: number): void {
    this.end = null
    this.arrived = now
    this.voiceAt = now
    this.quietSince = null
    this.inkAt = Number.NEGATIVE_INFINITY
    this.last.clear()
  }

  /** What is wrong at the moment, the gravest first. */
  warnings(now: number): SoundWarning[] {
    const out: SoundWarning[] = []
    if (now - this.arrived > LOST_MS) out.push({ fault: 'lost', since: this.arrived })
    else if (
      this.quietSince !== null &&
      now - this.quietSince > (this.open || this.voiceAt <= this.began ? MUTE_MS : GATED_MUTE_MS)
    )
      out.push({ fault: 'mute', since: this.quietSince })
    for (const fault of ['dropped', 'clipping'] as const) {
      const told = this.last.get(fault)
      if (told && now - told.at < STAYS_MS) out.push({ fault, since: told.since })
    }
    const writing = now - this.inkAt < 3000
    const silent = now - Math.max(this.voiceAt, this.inkSince)
    if (!out.length && writing && silent > NO_VOICE_MS) out.push({ fault: 'no-voice', since: this.voiceAt })
    return out
  }

  private drop(from: number, to: number, now: number) {
    this.drops.push({ from, to })
    this.tell('dropped', from, now)
  }

  private tell(fault: SoundFault, since: number, now: number) {
    const told = this.last.get(fault)
    this.last.set(fault, { since: told && now - told.at < STAYS_MS ? told.since : since, at: now })
  }

  /** A microphone is never exactly silent; one with a gate is, and its zeros say nothing. */
  private lookForZeros(pcm: Int16Array, level: number, rate: number, at: number, now: number) {
    let some = 0
    for (let i = 0; i < pcm.length; i++) {
      if (pcm[i] === 0) {
        if (this.zeros.ms === 0) this.zeros.from = at + (i / rate) * 1000
        this.zeros.ms += 1000 / rate
        continue
      }
      some++
      if (this.zeros.told) this.drops[this.drops.length - 1]!.to = at + (i / rate) * 1000
      this.zeros = { from: 0, ms: 0, told: false }
    }
    const ms = (pcm.length / rate) * 1000
    this.roomMs = some > pcm.length * 0.3 && level > -95 && level < ROOM_LEVEL ? this.roomMs + ms : 0
    this.open ||= this.roomMs >= ROOM_MS
    if (this.zeros.ms >= ZEROS_MS && !this.zeros.told && this.open) {
      this.zeros.told = true
      this.drop(this.zeros.from, at + ms, now)
    }
  }

  private hear(level: number, at: number, now: number) {
    if (level < MUTE_LEVEL) this.quietSince ??= at
    else this.quietSince = null
    // The room is learnt from below: at once down to a quieter moment, slowly up.
    this.room = level < this.room ? Math.max(-75, level) : this.room + 0.004
    if (level > this.room + VOICE_OVER_ROOM) this.voiceAt = now
  }
}
