/** Finished files (videos, packages) in the browser's private file system, written there by the workers. */
const FOLDER = 'files'

async function folder(): Promise<FileSystemDirectoryHandle> {
  return (await navigator.storage.getDirectory()).getDirectoryHandle(FOLDER, { create: true })
}

/** A finished file, or null when it is gone. */
export async function openFile(name: string): Promise<File | null> {
  try { return await (await (await folder()).getFileHandle(name)).getFile() }
  catch { return null }
}

/** Removes a file; nothing happens when it is not there. */
export async function removeFile(name: string): Promise<void> {
  try { await (await folder()).removeEntry(name) }
  catch { /* it was gone already, which is what was wanted */ }
}

/** Removes files that nothing refers to any more, left behind when a tab was closed in the middle of work. */
export async function sweepFiles(keep: ReadonlySet<string>): Promise<void> {
  const dir = await folder()
  const names: string[] = []
  for await (const name of (dir as unknown as { keys(): AsyncIterable<string> }).keys()) names.push(name)
  for (const name of names) if (!keep.has(name)) await removeFile(name)
}

/** What the browser grants, in bytes. */
export async function storageRoom(): Promise<{ used: number, free: number }> {
  const { usage = 0, quota = 0 } = await navigator.storage.estimate()
  return { used: usage, free: Math.max(0, quota - usage) }
}

/** Asks the browser not to clear this site's data by itself. */
export async function askToKeep(): Promise<boolean> {
  return navigator.storage.persist?.() ?? false
}
