/**
 * Locks that the browser lets go of when a tab goes away, however it goes.
 */

/**
 * Holds a lock for as long as this tab lives or until the returned function is called.
 * @returns null when another tab holds it
 */
export function hold(name: string): Promise<(() => void) | null> {
  return new Promise((resolve) => {
    void navigator.locks.request(name, { ifAvailable: true }, (lock) => {
      if (!lock) {
        resolve(null)
        return undefined
      }
      return new Promise<void>(release => resolve(() => release()))
    })
  })
}

/** Whether some tab holds a lock. */
export async function isHeld(name: string): Promise<boolean> {
  const { held = [] } = await navigator.locks.query()
  return held.some(l => l.name === name)
}

export const folioLock = (id: string) => `folio:${id}`
export const takeLock = (id: string) => `take:${id}`
