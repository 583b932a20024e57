import { one } from './dom'

/** What the page says can be kept: the files beside it, and how many bytes they are. */
interface ToKeep {
  files: string[]
  bytes: number
}

const PREFIX = `orthograph ${location.pathname} `
const LIST = 'script#to-keep'

async function nameOf(list: string): Promise<string> {
  const hash = new Uint8Array(await crypto.subtle.digest('SHA-256', new TextEncoder().encode(list)))
  return PREFIX + [...hash.slice(0, 8)].map(b => b.toString(16).padStart(2, '0')).join('')
}
const keptNames = async () => (await caches.keys()).filter(name => name.startsWith(PREFIX))

/**
 * Keeps the page with all that it needs. It is there whole or not at all: the page is stored last, and only where it is
 * still the one whose files were stored.
 * @throws where something cannot be had, or the page has changed in between
 */
async function keepAll(list: string, onShare: (share: number) => void): Promise<void> {
  const { files } = JSON.parse(list) as ToKeep
  const name = await nameOf(list)
  const cache = await caches.open(name)
  try {
    for (const [i, file] of files.entries()) {
      await cache.add(file)
      onShare((i + 1) / files.length)
    }
    const page = await fetch(location.pathname, { cache: 'no-cache' })
    const html = await page.clone().text()
    if (!page.ok || !html.includes(list)) throw new Error('the page has changed')
    await cache.put(location.pathname, page)
    await navigator.serviceWorker.register('keep.js')
  } catch (error) {
    await caches.delete(name)
    throw error
  }
  for (const other of await keptNames()) if (other !== name) await caches.delete(other)
}

async function letGo(): Promise<void> {
  for (const name of await keptNames()) await caches.delete(name)
  await (await navigator.serviceWorker.getRegistration(location.pathname))?.unregister()
}

const megabytes = (bytes: number) => `${(Math.ceil(bytes / 1e5) / 10).toFixed(1)} MB`

/** Offers the lesson for use without a line, where its host gives the worker for it; a new version is kept by itself. */
export async function keepIt(): Promise<void> {
  const list = document.querySelector(LIST)?.textContent
  if (!list || !('serviceWorker' in navigator) || !('caches' in window)) return
  const { bytes } = JSON.parse(list) as ToKeep
  const line = one(document, '.keep')
  const button = one<HTMLButtonElement>(line, 'button')
  const says = one(line, 'span')
  let isKept = false
  const show = async () => {
    const names = await keptNames()
    isKept = names.includes(await nameOf(list))
    button.textContent = isKept ? 'Let go of what is kept' : `Keep it for use without a line, ${megabytes(bytes)}`
    says.textContent = isKept ? 'This lesson is kept in this browser.' : ''
    return names.length > 0
  }
  const keep = async () => {
    button.disabled = true
    try {
      await keepAll(list, share => {
        says.textContent = `Being kept: ${Math.round(100 * share)} %`
      })
      await show()
    } catch {
      says.textContent = 'It could not be kept whole, so nothing of it is. Load the page again, then try once more.'
    }
    button.disabled = false
  }
  line.hidden = false
  button.addEventListener('click', () => void (isKept ? letGo().then(show) : keep()))
  // An older version was kept, and this is a newer one.
  if ((await show()) && !isKept) void keep()
}
