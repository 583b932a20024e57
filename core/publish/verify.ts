/** What a check found wrong with what goes out: the file, what is wrong with it, and what to do. */
export interface Fault {
  file: string
  what: string
  next: string
}

const ATTRIBUTE = /\s(src|href|poster|data-sound)="([^"]*)"/g
const plain = (text: string) =>
  text
    .replace(/&quot;/g, '"')
    .replace(/&#39;/g, "'")
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&amp;/g, '&')

/** Addresses that a page names, as they are meant, without what stands in it itself (`data:`). Style names its fonts. */
export function addressesIn(html: string): string[] {
  const marked = html.replace(/<script[^>]*>[^]*?<\/script>/g, '').replace(/<style>[^]*?<\/style>/g, '')
  const named = [...marked.matchAll(ATTRIBUTE)].map(m => plain(m[2]!))
  const fonts = [...(/<style>([^]*?)<\/style>/.exec(html)?.[1] ?? '').matchAll(/url\(([^)]+)\)/g)].map(m => m[1]!)
  return [...new Set([...named, ...fonts])].filter(a => !a.startsWith('data:'))
}

/** What stands beside the page on its class site: another lesson, the class page. */
const ON_THE_SITE = /^\.\.\/(course\/)?[a-f0-9]{16}\/(#.*)?$/

/**
 * Whether every address of a page leads somewhere: to a file beside it, a place in it, or an address that can be one.
 * @param has whether there is a file of that path
 */
export function checkAddresses(html: string, has: (path: string) => boolean): Fault[] {
  const faults: Fault[] = []
  for (const address of addressesIn(html)) {
    if (address.startsWith('#')) {
      if (!html.includes(` id="${address.slice(1)}"`))
        faults.push({ file: 'index.html', what: `leads to ${address}, which is not in it`, next: 'Publish once more.' })
    } else if (/^[a-z][a-z0-9+.-]*:/i.test(address)) {
      if (!isAddress(address))
        faults.push({
          file: 'index.html',
          what: `has a related lesson at “${address}”, which is no address`,
          next: 'Correct it in the plan, on the Pages screen.',
        })
    } else if (!ON_THE_SITE.test(address) && !has(pathIn(address)))
      faults.push({ file: pathIn(address), what: 'is named on the page and is not there', next: 'Publish once more.' })
  }
  return faults
}

function pathIn(address: string): string {
  try {
    return decodeURIComponent(address)
  } catch {
    return address
  }
}

function isAddress(address: string): boolean {
  try {
    const { hostname, protocol } = new URL(address)
    return protocol === 'mailto:' || hostname !== ''
  } catch {
    return false
  }
}

/** A pixel differs when one of its colours does by more than this, of 255. */
const DIFFERS = 80

/**
 * The share of pixels in which two pictures of one size differ clearly, where neither lies at a place where the other
 * does within a pixel: lines that are drawn a little beside are the same line.
 * @param a, b RGBA, 4 bytes a pixel, rows of `width`
 */
export function unlikeness(a: Uint8ClampedArray, b: Uint8ClampedArray, width: number): number {
  const pixels = a.length / 4
  const height = pixels / width
  let unlike = 0
  const near = (p: Uint8ClampedArray, i: number, q: Uint8ClampedArray) => {
    const x = i % width,
      y = Math.floor(i / width)
    for (let dy = -1; dy <= 1; dy++)
      for (let dx = -1; dx <= 1; dx++) {
        if (x + dx < 0 || x + dx >= width || y + dy < 0 || y + dy >= height) continue
        if (!apart(p, 4 * i, q, 4 * (i + dy * width + dx))) return true
      }
    return false
  }
  for (let i = 0; i < pixels; i++) if (apart(a, 4 * i, b, 4 * i) && (!near(a, i, b) || !near(b, i, a))) unlike++
  return unlike / Math.max(1, pixels)
}

const apart = (a: Uint8ClampedArray, i: number, b: Uint8ClampedArray, j: number) =>
  Math.abs(a[i]! - b[j]!) > DIFFERS ||
  Math.abs(a[i + 1]! - b[j + 1]!) > DIFFERS ||
  Math.abs(a[i + 2]! - b[j + 2]!) > DIFFERS
