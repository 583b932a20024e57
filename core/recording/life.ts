/**
 * Where a take is in its life. `leaving`: it is given up while it is made ready; `counting`: it goes on after going
 * back; `full`: it has the
 * longest length there can be, and waits to be ended; `ending`: what writes itself is written to its end; `unstored`:
 * it has ended, and its end
 * could not be stored.
 */
export const LIFE_STATES = [
  'rest',
  'gettingReady',
  'leaving',
  'running',
  'paused',
  'full',
  'counting',
  'ending',
  'settling',
  'unstored',
] as const
export type LifeState = (typeof LIFE_STATES)[number]

/**
 * What happens to a take: to it (`fail`, `slept`, `longest`), or because it is told to. `left`: what was begun of it is
 * put away.
 */
export const LIFE_EVENTS = [
  'begin',
  'ready',
  'fail',
  'left',
  'pause',
  'goOn',
  'slept',
  'longest',
  'back',
  'counted',
  'stop',
  'written',
  'settled',
  'giveUp',
  'handOver',
] as const
export type LifeEvent = (typeof LIFE_EVENTS)[number]

/**
 * What has to be done when a take goes from one state to another. `run`: its clock and its watches start; `halt`,
 * `goOn`: its clock stands and runs
 * again; `back`: it goes back a step, its clock stands; `endCount`: a countdown ends at once; `quiet`: microphone and
 * camera come to rest;
 * `handOver`: it is put together beside the next one; `release`: nothing holds it any more; `reset`: all is as before
 * it.
 */
export const LIFE_EFFECTS = [
  'run',
  'halt',
  'goOn',
  'back',
  'endCount',
  'quiet',
  'handOver',
  'release',
  'reset',
] as const
export type LifeEffect = (typeof LIFE_EFFECTS)[number]

type Way = readonly [to: LifeState, ...effects: LifeEffect[]]

/** What is not listed does not happen in that state. */
const WAYS: Record<LifeState, Partial<Record<LifeEvent, Way>>> = {
  rest: { begin: ['gettingReady'] },
  gettingReady: { ready: ['running', 'run'], stop: ['leaving', 'endCount'], fail: ['leaving', 'endCount'] },
  leaving: { left: ['rest', 'reset'] },
  running: {
    pause: ['paused', 'halt'],
    slept: ['paused', 'halt'],
    longest: ['full', 'halt'],
    back: ['counting', 'back'],
    stop: ['ending'],
    handOver: ['gettingReady', 'handOver'],
  },
  paused: {
    goOn: ['running', 'goOn'],
    back: ['counting', 'back'],
    stop: ['settling', 'quiet'],
    handOver: ['gettingReady', 'handOver'],
  },
  full: { back: ['counting', 'back'], stop: ['settling', 'quiet'], handOver: ['gettingReady', 'handOver'] },
  counting: { counted: ['running', 'goOn'], back: ['counting', 'endCount', 'back'], stop: ['paused', 'endCount'] },
  ending: { written: ['settling', 'quiet'] },
  settling: { settled: ['rest', 'release', 'reset'], fail: ['unstored'] },
  unstored: { stop: ['settling', 'quiet'], giveUp: ['rest', 'release', 'reset'] },
}

/**
 * @returns where a take goes when something happens, and what has to be done then, in order; null where that does not
 * happen
 */
export function nextInLife(
  state: LifeState,
  event: LifeEvent,
): { to: LifeState; effects: readonly LifeEffect[] } | null {
  const way = WAYS[state][event]
  if (!way) return null
  const [to, ...effects] = way
  return { to, effects }
}

/** Whether the clock of a take runs in a state. */
export const clockRuns = (state: LifeState): boolean => state === 'running' || state === 'ending'
