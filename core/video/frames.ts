import type { Cut } from '../cut/cut'
import type { Stretch } from '../recording/stretches'

/** When pictures are made: at a steady rate, or only when the picture changes. */
export type FrameMode = 'steady' | 'on-change'

/** Pictures a second in steady mode. */
export const STEADY_RATE = 30
/** Growing ink needs no more pictures a second than this to look continuous. */
export const CHANGE_RATE = 12
/** Pictures a second while the view moves; a multiple of the rate for ink. */
export const MOVE_RATE = 36
/** Pictures a second while the camera's picture is shown; a multiple of the rate for ink. */
export const CAMERA_RATE = 24
/** The picture is repeated at least this often, ms: one very long frame makes players seek wrongly. */
export const REPEAT_MS = 1000
/** Key frames come at least this often, ms. */
export const KEY_MS = 10_000

/**
 * One picture: shown from `t` for `duration`, cut ms (fractional); `key` asks for a key frame; `fresh` says that it
 * differs from the one before.
 */
export interface FrameTime {
  t: number
  duration: number
  key: boolean
  fresh: boolean
}

/**
 * The pictures of a cut.
 * @param changes cut times (ms, ascending) at which the board changes
 * @param moves cut times (ms, ascending) at which the whole view moves, which needs more pictures than ink does
 * @param keys cut times (ms) that need a key frame: chapter starts
 * @param alive stretches of the cut, ms, in which the camera's picture is shown, which changes all the time
 */
export function frameTimes(
  cut: Cut,
  changes: readonly number[],
  mode: FrameMode,
  keys: readonly number[],
  moves: readonly number[] = [],
  alive: readonly Stretch[] = [],
): FrameTime[] {
  const tick =
    1000 / (mode === 'steady' ? STEADY_RATE : alive.length ? CAMERA_RATE : moves.length ? MOVE_RATE : CHANGE_RATE)
  const ticks = Math.max(1, Math.ceil(cut.duration / tick - 1e-6))
  const changed = changedTicks(cut, changes, tick, ticks)
  const moving = changedTicks(cut, moves, tick, ticks)
  for (const i of aliveTicks(alive, tick, ticks)) changed[i] = moving[i] = 1
  let waiting = false
  const keyTicks = new Set(keys.map(k => Math.min(ticks - 1, Math.ceil(k / tick - 1e-6))))
  const out: FrameTime[] = []
  let lastFrame = -Infinity
  let lastKey = -Infinity
  for (let i = 0; i < ticks; i++) {
    const t = i * tick
    const key = i === 0 || keyTicks.has(i) || t - lastKey >= KEY_MS - 1e-6
    // A change may wait for the next picture of its rate, but is never left out.
    waiting ||= changed[i] === 1
    const ink = waiting && (moving[i] === 1 || t - lastFrame >= 1000 / CHANGE_RATE - 1e-6)
    const due = mode === 'steady' || key || ink || t - lastFrame >= REPEAT_MS - 1e-6 || (waiting && i === ticks - 1)
    if (!due) continue
    out.push({ t, duration: 0, key, fresh: i === 0 || waiting })
    waiting = false
    lastFrame = t
    if (key) lastKey = t
  }
  out.forEach((f, i) => {
    f.duration = (out[i + 1]?.t ?? cut.duration) - f.t
  })
  return out
}

/** Marks the ticks whose picture differs from the tick's before. */
function changedTicks(cut: Cut, changes: readonly number[], tick: number, ticks: number): Uint8Array {
  const changed = new Uint8Array(ticks)
  const mark = (t: number) => {
    changed[Math.min(ticks - 1, Math.max(0, Math.ceil(t / tick - 1e-6)))] = 1
  }
  for (const piece of cut.pieces) {
    // The first tick of a piece may show another board than the last of the one before.
    mark(piece.at)
    // While the student is to try, the time that is left is told every second.
    if (piece.turn) for (let t = piece.at; t < piece.at + piece.ms; t += 1000) mark(t)
  }
  for (const t of changes) if (t < cut.duration) mark(t)
  return changed
}

/** The ticks at which a stretch of `alive` is running. */
function* aliveTicks(alive: readonly Stretch[], tick: number, ticks: number): Generator<number> {
  for (const { from, to } of alive) for (let i = Math.ceil(from / tick - 1e-6); i < ticks && i * tick < to; i++) yield i
}
