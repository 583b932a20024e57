import { keep, kept } from './kept'

/** What she chose for all questions of the page at once. */
export interface Settings {
  speed: number
  captions: boolean
  /** Wait at the end of each step. */
  stops: boolean
  /** Go closer to what is written, on a narrow screen. */
  follows: boolean
  /** Show what was not reached yet, too. */
  showsAll: boolean
}

/** The speeds that are offered. */
export const SPEEDS = [0.5, 0.75, 1, 1.25, 1.5, 2, 2.5, 3]

const NAMES: Record<keyof Settings, string> = {
  speed: 'speed',
  captions: 'captions',
  stops: 'each',
  follows: 'follow',
  showsAll: 'all',
}

function read(): Settings {
  const speed = Number(kept(NAMES.speed) ?? 1)
  const on = (name: keyof Settings, otherwise: boolean) => (kept(NAMES[name]) ?? (otherwise ? 'on' : 'off')) === 'on'
  return {
    speed: SPEEDS.includes(speed) ? speed : 1,
    captions: on('captions', false),
    stops: on('stops', false),
    follows: on('follows', true),
    showsAll: on('showsAll', false),
  }
}

/** One state that every question of the page shares; it is kept in her browser. */
export class SharedSettings {
  private state = read()
  private readonly listeners: ((settings: Readonly<Settings>) => void)[] = []

  get now(): Readonly<Settings> {
    return this.state
  }
  change(by: Partial<Settings>): void {
    this.state = { ...this.state, ...by }
    for (const name of Object.keys(by) as (keyof Settings)[]) {
      const value = this.state[name]
      keep(NAMES[name], typeof value === 'boolean' ? (value ? 'on' : 'off') : String(value))
    }
    for (const listener of this.listeners) listener(this.state)
  }
  /** Told at once, and with each change. */
  watch(listener: (settings: Readonly<Settings>) => void): void {
    this.listeners.push(listener)
    listener(this.state)
  }
}
