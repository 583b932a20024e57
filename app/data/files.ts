import { filesFolder } from '../../workers/filesFolder'

/** A finished file, or null when it is gone. */
export async function openFile(name: string): Promise<File | null> {
  try { return await (await (await filesFolder()).getFileHandle(name)).getFile() }
  catch { return null }
}

/** Removes a file; nothing happens when it is not there. */
export async function removeFile(name: string): Promise<void> {
  try { await (await filesFolder()).removeEntry(name) }
  catch { /* it was gone already, which is what was wanted */ }
}

/** Removes files that nothing refers to any more, left behind when a tab was closed in the middle of work. */
export async function sweepFiles(keep: ReadonlySet<string>): Promise<void> {
  const dir = await filesFolder()
  const names: string[] = []
  for await (const name of (dir as unknown as { keys(): AsyncIterable<string> }).keys()) names.push(name)
  for (const name of names) if (!keep.has(name)) await removeFile(name)
}

/** Asks the browser not to clear this site's data by itself. */
export async function askToKeep(): Promise<boolean> {
  return navigator.storage.persist?.() ?? false
}

/** What the browser gives this site and what of it is in use, bytes; null where it does not tell. */
export async function storageRoom(): Promise<{ usage: number, quota: number } | null> {
  const { usage, quota } = await navigator.storage?.estimate?.() ?? {}
  return usage === undefined || quota === undefined ? null : { usage, quota }
}
