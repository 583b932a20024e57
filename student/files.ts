/** Hands a file over to be saved. */
export function saveFile(name: string, value: unknown): void {
  const file = new Blob([JSON.stringify(value, null, 1)], { type: 'application/json' })
  const link = Object.assign(document.createElement('a'), { href: URL.createObjectURL(file), download: name })
  link.click()
  setTimeout(() => URL.revokeObjectURL(link.href), 1000)
}

/** Copies text. @returns whether it could */
export async function copy(text: string): Promise<boolean> {
  try {
    await navigator.clipboard.writeText(text)
    return true
  } catch {
    return false
  }
}
