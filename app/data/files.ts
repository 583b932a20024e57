import { filesFolder } from '../../workers/filesFolder'
import { acquire, lockedNames } from './locks'

/** A finished file, or null when it is gone. */
export async function openFile(name: string): Promise<File | null> {
  try {
    return await (await (await filesFolder()).getFileHandle(name)).getFile()
  } catch {
    return null
  }
}

/** Removes a file; nothing happens when it is not there. */
export async function removeFile(name: string): Promise<void> {
  try {
    await (await filesFolder()).removeEntry(name)
  } catch {
    /* it was gone already, which is what was wanted */
  }
}

const fileLock = (name: string) => `file:${name}`

/** Says that a file is being made or handed over here, so that no other tab sweeps it. @returns lets go of it */
export async function useFile(name: string): Promise<() => void> {
  return (await acquire(fileLock(name))) ?? (() => {})
}

/**
 * Removes files that nothing refers to any more, left behind when a tab was closed in the middle of work.
 * @param keep reads the names of those that are referred to
 */
export async function sweepFiles(keep: () => Promise<ReadonlySet<string>>): Promise<void> {
  const dir = await filesFolder()
  const names: string[] = []
  for await (const name of (dir as unknown as { keys(): AsyncIterable<string> }).keys()) names.push(name)
  // In this order: what is let go of meanwhile is referred to by then.
  const held = await lockedNames()
  const kept = await keep()
  for (const name of names) if (!kept.has(name) && !held.has(fileLock(name))) await removeFile(name)
}

/** How much more the browser lets this site store, bytes; without bounds where it does not tell. */
export async function freeRoom(): Promise<number> {
  const room = await storageRoom()
  return room ? Math.max(0, room.quota - room.usage) : Infinity
}

/** Asks the browser not to clear this site's data by itself. */
export async function askToKeep(): Promise<boolean> {
  return navigator.storage.persist?.() ?? false
}

/** What the browser gives this site and what of it is in use, bytes; null where it does not tell. */
export async function storageRoom(): Promise<{ usage: number; quota: number } | null> {
  const { usage, quota } = (await navigator.storage?.estimate?.()) ?? {}
  return usage === undefined || quota === undefined ? null : { usage, quota }
}
