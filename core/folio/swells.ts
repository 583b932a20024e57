/** Most pixels of one picture: more would take a gigabyte and more once it is decoded. */
export const MOST_PIXELS = 250_000_000
/** Most bytes that one packed stream of a PDF may become. */
const MOST_STREAM = 600 * 1024 ** 2
/** How much of a file is looked at at a time, bytes. */
const WINDOW = 4 * 1024 ** 2

/**
 * What of a file would take all memory if it were shown, though the file itself is small: a picture with far too many
 * pixels, or a
 * packed stream of a PDF (ISO 32000-1, 7.4.4) that becomes gigabytes. Streams are unpacked and thrown away; an
 * encrypted file tells nothing.
 * @param mostStream most bytes that one packed stream may become
 * @returns the reason in words, or null
 */
export async function whatSwells(file: Blob, mime: string, mostStream = MOST_STREAM): Promise<string | null> {
  if (mime !== 'application/pdf') {
    const size = await headerSize(file, mime)
    return size && size.width * size.height > MOST_PIXELS
      ? `its picture has ${Math.round((size.width * size.height) / 1e6)} megapixels`
      : null
  }
  for await (const { dictionary, at } of streamsOf(file)) {
    const number = (name: string) => Number(new RegExp(`/${name}\\s+(\\d+)`).exec(dictionary)?.[1] ?? 0)
    const pixels = number('Width') * number('Height')
    if (/\/Subtype\s*\/Image/.test(dictionary) && pixels > MOST_PIXELS)
      return `a picture in it has ${Math.round(pixels / 1e6)} megapixels`
    // A stream that is short cannot become much: deflate packs 1032 to 1 at best.
    const length = number('Length')
    if (
      /\/Fl(ateDecode)?\b/.test(dictionary) &&
      (length === 0 || /\/Length\s+\d+\s+\d+\s+R/.test(dictionary) || length > mostStream / 1032)
    ) {
      if ((await unpacked(file.slice(at), mostStream)) > mostStream)
        return `a part of it unpacks to more than ${Math.round(mostStream / 1024 ** 2)} MB`
    }
  }
  return null
}

/** The streams of a PDF: the end of the dictionary before each, and where its bytes begin. */
async function* streamsOf(file: Blob): AsyncGenerator<{ dictionary: string; at: number }> {
  const overlap = 2048
  for (let from = 0; from < file.size; from += WINDOW) {
    const bytes = new Uint8Array(await file.slice(Math.max(0, from - overlap), from + WINDOW).arrayBuffer())
    const text = new TextDecoder('latin1').decode(bytes)
    const begin = Math.max(0, from - overlap)
    for (const hit of text.matchAll(/(?<!end)stream(\r\n|\n)/g)) {
      const at = begin + hit.index + hit[0].length
      // What lies wholly in the overlap was met before.
      if (from > 0 && at <= from) continue
      const before = text.slice(Math.max(0, hit.index - 1024), hit.index)
      yield { dictionary: before.slice(before.lastIndexOf(' obj') + 1), at }
    }
  }
}

/** How many bytes a packed stream becomes; counting stops beyond what is allowed. */
async function unpacked(packed: Blob, most: number): Promise<number> {
  let bytes = 0
  const reader = packed.stream().pipeThrough(new DecompressionStream('deflate')).getReader()
  try {
    for (;;) {
      const { done, value } = await reader.read()
      if (done) return bytes
      bytes += value.byteLength
      if (bytes > most) return bytes
    }
  } catch {
    return bytes
  } finally {
    void reader.cancel().catch(() => {})
  }
}

/** Size in pixels from a picture's header, without decoding it; null when the header does not say. */
export async function headerSize(file: Blob, mime: string): Promise<{ width: number; height: number } | null> {
  const bytes = new Uint8Array(await file.slice(0, 512 * 1024).arrayBuffer())
  const view = new DataView(bytes.buffer)
  if (mime === 'image/png') return bytes.length >= 24 ? { width: view.getUint32(16), height: view.getUint32(20) } : null
  if (mime === 'image/webp')
    return bytes.length >= 30 ? webpSize(view, String.fromCharCode(...bytes.subarray(12, 16))) : null
  // JPEG: the frame header (SOF) after any number of other segments.
  for (let i = 2; i + 9 < bytes.length; ) {
    if (bytes[i] !== 0xff) return null
    const marker = bytes[i + 1]!
    if (marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker))
      return { height: view.getUint16(i + 5), width: view.getUint16(i + 7) }
    i += 2 + view.getUint16(i + 2)
  }
  return null
}

function webpSize(view: DataView, kind: string): { width: number; height: number } | null {
  if (kind === 'VP8X')
    return {
      width: 1 + (view.getUint32(24, true) & 0xffffff),
      height: 1 + ((view.getUint32(26, true) >>> 8) & 0xffffff),
    }
  if (kind === 'VP8 ') return { width: view.getUint16(26, true) & 0x3fff, height: view.getUint16(28, true) & 0x3fff }
  return kind === 'VP8L'
    ? { width: 1 + (view.getUint32(21, true) & 0x3fff), height: 1 + ((view.getUint32(21, true) >>> 14) & 0x3fff) }
    : null
}
