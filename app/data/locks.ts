/**
 * Locks that the browser lets go of when a tab goes away, however it goes.
 */

/**
 * Holds a lock for as long as this tab lives or until the returned function is called.
 * @param how `over`: takes it away from the tab that holds it; `onLost` is told when another tab takes it away from
 * this one
 * @returns null when another tab holds it
 */
export function acquire(name: string, how: { over?: boolean; onLost?: () => void } = {}): Promise<(() => void) | null> {
  return new Promise(resolve => {
    navigator.locks
      .request(name, how.over ? { steal: true } : { ifAvailable: true }, lock => {
        if (!lock) {
          resolve(null)
          return undefined
        }
        return new Promise<void>(release => resolve(() => release()))
      })
      .catch(() => how.onLost?.())
  })
}

/** Names of all locks that some tab holds. */
export async function lockedNames(): Promise<ReadonlySet<string>> {
  const { held = [] } = await navigator.locks.query()
  return new Set(held.flatMap(l => l.name ?? []))
}

/** Whether some tab holds a lock. */
export async function isLocked(name: string): Promise<boolean> {
  return (await lockedNames()).has(name)
}

export const folioLock = (id: string) => `folio:${id}`
export const takeLock = (id: string) => `take:${id}`
