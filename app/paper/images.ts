import { headerSize, MOST_PIXELS as REFUSED, Trouble, type SourceDocument } from '#core/folio'

/** Largest picture that is taken as it is, pixels; larger ones are made smaller on the way in. */
const MOST_PIXELS = 24_000_000
/** Width of a picture's page in points, portrait and landscape: that of A4. */
const SHEET = { portrait: 595.28, landscape: 841.89 }

export type ImageMime = Exclude<SourceDocument['mime'], 'application/pdf'>

/** What a file's first bytes say it is, whatever its name ends in; null for what cannot be brought in. */
export async function mimeOf(file: Blob): Promise<SourceDocument['mime'] | null> {
  const head = new Uint8Array(await file.slice(0, 1024).arrayBuffer())
  const text = String.fromCharCode(...head)
  if (text.includes('%PDF-')) return 'application/pdf'
  if (head[0] === 0x89 && text.startsWith('PNG', 1)) return 'image/png'
  if (head[0] === 0xff && head[1] === 0xd8) return 'image/jpeg'
  return text.startsWith('RIFF') && text.startsWith('WEBP', 8) ? 'image/webp' : null
}

/**
 * Size in points of the page that a picture fills: as wide as A4, as high as its shape asks for.
 * @param pixels of the picture
 */
export function pageOfPicture(pixels: { width: number; height: number }): { width: number; height: number } {
  const width = pixels.width > pixels.height ? SHEET.landscape : SHEET.portrait
  return { width, height: Math.round(((width * pixels.height) / pixels.width) * 100) / 100 }
}

/** A picture ready to be a page: its file, and the size of its page in points. */
export interface ReadImage {
  blob: Blob
  mime: ImageMime
  page: { width: number; height: number }
}

/**
 * Reads a picture for a page. One that is larger than 24 megapixels is made smaller, so that tablets can hold it.
 * @throws Trouble that names the file: empty, too large, damaged
 */
export async function readImage(file: Blob, name: string, mime: ImageMime): Promise<ReadImage> {
  const safe = 'Nothing in the folio was changed.'
  const told = await headerSize(file, mime)
  if (told && told.width * told.height > REFUSED) {
    throw new Trouble(
      'image-too-large',
      `${name} has ${Math.round((told.width * told.height) / 1e6)} megapixels; pictures of up to ${REFUSED / 1e6} can be brought in.`,
      safe,
      'Make it smaller, or take the photo again with a lower resolution.',
    )
  }
  let bitmap: ImageBitmap
  try {
    bitmap = await createImageBitmap(new Blob([file], { type: mime }), { imageOrientation: 'from-image' })
  } catch (cause) {
    throw new Trouble(
      'image-damaged',
      `${name} cannot be read: the picture is damaged or was cut short.`,
      safe,
      'Take or export it again, then bring it in.',
      cause,
    )
  }
  const shrink = Math.min(1, Math.sqrt(MOST_PIXELS / (bitmap.width * bitmap.height)))
  const pixels = {
    width: Math.max(1, Math.round(bitmap.width * shrink)),
    height: Math.max(1, Math.round(bitmap.height * shrink)),
  }
  const blob = shrink < 1 ? await drawn(bitmap, pixels) : new Blob([file], { type: mime })
  bitmap.close()
  return { blob, mime: shrink < 1 ? 'image/jpeg' : mime, page: pageOfPicture(pixels) }
}

function drawn(bitmap: ImageBitmap, size: { width: number; height: number }): Promise<Blob> {
  const canvas = new OffscreenCanvas(size.width, size.height)
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0, size.width, size.height)
  return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.92 })
}
