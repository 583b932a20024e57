import { storageFull } from '../core/folio/trouble'
import { filesFolder } from './filesFolder'

/** A file that is written while it is made; `position` need not be ascending. */
export interface OpenFile {
  write(data: Uint8Array, position: number): void
  read(into: Uint8Array, position: number): number
  size(): number
  /** Makes it durable and lets go of it. */
  close(): void
  /** Lets go of it and removes it. */
  discard(): Promise<void>
}

/**
 * Creates a file in the browser's private file system. Writing goes straight to disk, so memory stays flat.
 * @throws Trouble `storage-full` from `write` when there is no room
 */
export async function createFile(name: string): Promise<OpenFile> {
  const dir = await filesFolder()
  const handle = await dir.getFileHandle(name, { create: true })
  const access = await handle.createSyncAccessHandle()
  access.truncate(0)
  let closed = false
  const close = () => {
    if (closed) return
    closed = true
    access.close()
  }
  return {
    write(data, position) {
      let written = 0
      try {
        written = access.write(data as Uint8Array<ArrayBuffer>, { at: position })
      } catch (cause) {
        throw storageFull('writing a file', cause)
      }
      if (written < data.length) throw storageFull('writing a file')
    },
    read: (into, position) => access.read(into as Uint8Array<ArrayBuffer>, { at: position }),
    size: () => access.getSize(),
    close() {
      access.flush()
      close()
    },
    async discard() {
      close()
      await dir.removeEntry(name).catch(() => {})
    },
  }
}

/** Opens a finished file as a Blob that is read from disk when needed. */
export async function finishedFile(name: string): Promise<File> {
  const handle = await (await filesFolder()).getFileHandle(name)
  return handle.getFile()
}

/** A stream that writes one after another into an open file. */
export function appendTo(file: OpenFile): WritableStream<Uint8Array> {
  let at = 0
  return new WritableStream({
    write(chunk) {
      file.write(chunk, at)
      at += chunk.length
    },
  })
}
