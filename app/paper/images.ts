import { Trouble, type SourceDocument } from '#core/folio'

/** Largest picture that is taken as it is, pixels; larger ones are made smaller on the way in. */
const MOST_PIXELS = 24_000_000
/** Above this a picture is refused before it is decoded: it would take a gigabyte. */
const REFUSED_PIXELS = 250_000_000
/** Width of a picture's page in points, portrait and landscape: that of A4. */
const SHEET = { portrait: 595.28, landscape: 841.89 }

export type ImageMime = Exclude<SourceDocument['mime'], 'application/pdf'>

/** What a file's first bytes say it is, whatever its name ends in; null for what cannot be brought in. */
export async function mimeOf(file: Blob): Promise<SourceDocument['mime'] | null> {
  const head = new Uint8Array(await file.slice(0, 1024).arrayBuffer())
  const text = String.fromCharCode(...head)
  if (text.includes('%PDF-')) return 'application/pdf'
  if (head[0] === 0x89 && text.startsWith('PNG', 1)) return 'image/png'
  if (head[0] === 0xFF && head[1] === 0xD8) return 'image/jpeg'
  return text.startsWith('RIFF') && text.startsWith('WEBP', 8) ? 'image/webp' : null
}

/** Size in pixels from a picture's header, without decoding it; null when the header does not say. */
export async function headerSize(file: Blob, mime: ImageMime): Promise<{ width: number, height: number } | null> {
  const bytes = new Uint8Array(await file.slice(0, 512 * 1024).arrayBuffer())
  const view = new DataView(bytes.buffer)
  if (mime === 'image/png') return bytes.length >= 24 ? { width: view.getUint32(16), height: view.getUint32(20) } : null
  if (mime === 'image/webp') {
    const kind = String.fromCharCode(...bytes.subarray(12, 16))
    if (kind === 'VP8X') return { width: 1 + (view.getUint32(24, true) & 0xFFFFFF), height: 1 + ((view.getUint32(26, true) >>> 8) & 0xFFFFFF) }
    if (kind === 'VP8 ') return { width: view.getUint16(26, true) & 0x3FFF, height: view.getUint16(28, true) & 0x3FFF }
    if (kind === 'VP8L') return { width: 1 + (view.getUint32(21, true) & 0x3FFF), height: 1 + ((view.getUint32(21, true) >>> 14) & 0x3FFF) }
    return null
  }
  // JPEG: the frame header (SOF) after any number of other segments.
  for (let i = 2; i + 9 < bytes.length;) {
    if (bytes[i] !== 0xFF) return null
    const marker = bytes[i + 1]!
    if (marker >= 0xC0 && marker <= 0xCF && ![0xC4, 0xC8, 0xCC].includes(marker)) return { height: view.getUint16(i + 5), width: view.getUint16(i + 7) }
    i += 2 + view.getUint16(i + 2)
  }
  return null
}

/** Size in points of the page that a picture fills: as wide as A4, as high as its shape asks for. @param pixels of the picture */
export function pageOfPicture(pixels: { width: number, height: number }): { width: number, height: number } {
  const width = pixels.width > pixels.height ? SHEET.landscape : SHEET.portrait
  return { width, height: Math.round((width * pixels.height / pixels.width) * 100) / 100 }
}

/** A picture ready to be a page: its file, and the size of its page in points. */
export interface ReadImage { blob: Blob, mime: ImageMime, page: { width: number, height: number } }

/**
 * Reads a picture for a page. One that is larger than 24 megapixels is made smaller, so that tablets can hold it.
 * @throws Trouble that names the file: empty, too large, damaged
 */
export async function readImage(file: Blob, name: string, mime: ImageMime): Promise<ReadImage> {
  const safe = 'Nothing in the folio was changed.'
  const told = await headerSize(file, mime)
  if (told && told.width * told.height > REFUSED_PIXELS) {
    throw new Trouble('image-too-large', `${name} has ${Math.round(told.width * told.height / 1e6)} megapixels; pictures of up to ${REFUSED_PIXELS / 1e6} can be brought in.`, safe, 'Make it smaller, or take the photo again with a lower resolution.')
  }
  let bitmap: ImageBitmap
  try { bitmap = await createImageBitmap(new Blob([file], { type: mime }), { imageOrientation: 'from-image' }) }
  catch (cause) { throw new Trouble('image-damaged', `${name} cannot be read: the picture is damaged or was cut short.`, safe, 'Take or export it again, then bring it in.', cause) }
  const shrink = Math.min(1, Math.sqrt(MOST_PIXELS / (bitmap.width * bitmap.height)))
  const pixels = { width: Math.max(1, Math.round(bitmap.width * shrink)), height: Math.max(1, Math.round(bitmap.height * shrink)) }
  const blob = shrink < 1 ? await drawn(bitmap, pixels) : new Blob([file], { type: mime })
  bitmap.close()
  return { blob, mime: shrink < 1 ? 'image/jpeg' : mime, page: pageOfPicture(pixels) }
}

function drawn(bitmap: ImageBitmap, size: { width: number, height: number }): Promise<Blob> {
  const canvas = new OffscreenCanvas(size.width, size.height)
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0, size.width, size.height)
  return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.92 })
}
