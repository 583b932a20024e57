/** What a student makes or chooses stays in her own browser; where nothing can be kept, she is told once. */

/** A page that is looked at by the application itself keeps nothing. */
const KEEPS = document.documentElement.dataset.keeps !== 'nothing'
const prefixOf = (lesson: string) => `orthograph:${lesson}:`
const PREFIX = prefixOf(document.documentElement.dataset.lesson ?? 'page')
/** Told when something could not be kept; by an event, as the page has more than one script. */
const REFUSED = 'orthograph-refused'
export const onRefused = (tell: () => void): void => addEventListener(REFUSED, tell)

export const kept = (name: string): string | null => read(PREFIX + name)
/** What another lesson of the same site keeps, as its class page shows it. */
export const keptOfLesson = (lesson: string, name: string): string | null => read(prefixOf(lesson) + name)

function read(key: string): string | null {
  if (!KEEPS) return null
  try {
    return localStorage.getItem(key)
  } catch {
    return null
  }
}

/** @returns whether it is kept */
export function keep(name: string, value: string): boolean {
  if (!KEEPS) return true
  try {
    localStorage.setItem(PREFIX + name, value)
    return true
  } catch {
    dispatchEvent(new Event(REFUSED))
    return false
  }
}

export function forget(name: string): void {
  try {
    localStorage.removeItem(PREFIX + name)
  } catch {
    /* Nothing is kept there either. */
  }
}

/** Everything that is kept of this page, by its names. */
export function allKept(): Record<string, string> {
  const out: Record<string, string> = {}
  try {
    for (let i = 0; i < localStorage.length; i++) {
      const key = localStorage.key(i)!
      if (key.startsWith(PREFIX)) out[key.slice(PREFIX.length)] = localStorage.getItem(key)!
    }
  } catch {
    /* Nothing is kept there. */
  }
  return out
}
