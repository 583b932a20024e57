import type { Quad, SheetFormat } from '../core/photo'
import { serveJobs } from './job'
import { cleanPhoto, findSheet } from './photo/clean'
import { openCv } from './photo/library'

/** Finds sheets in photos and straightens them, away from the interface. */
serveJobs(self, {
  corners: async value => {
    const { cv } = await openCv()
    return findSheet(cv, await pixelsOf(value as Blob))
  },
  clean: async value => {
    const { blob, corners, even, format } = value as { blob: Blob; corners: Quad; even: boolean; format?: SheetFormat }
    const { cv } = await openCv()
    const { width, height, data } = cleanPhoto(cv, await pixelsOf(blob), corners, even, format)
    const canvas = new OffscreenCanvas(width, height)
    canvas.getContext('2d')!.putImageData(new ImageData(data as Uint8ClampedArray<ArrayBuffer>, width, height), 0, 0)
    return { blob: await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.9 }), width, height }
  },
})

async function pixelsOf(blob: Blob) {
  const bitmap = await createImageBitmap(blob, { imageOrientation: 'from-image' })
  const canvas = new OffscreenCanvas(bitmap.width, bitmap.height)
  const context = canvas.getContext('2d', { willReadFrequently: true })!
  context.drawImage(bitmap, 0, 0)
  bitmap.close()
  return context.getImageData(0, 0, canvas.width, canvas.height)
}
