/** The folder of the browser's private file system in which finished files (videos, packages) stand. */
export async function filesFolder(): Promise<FileSystemDirectoryHandle> {
  return (await navigator.storage.getDirectory()).getDirectoryHandle('files', { create: true })
}
