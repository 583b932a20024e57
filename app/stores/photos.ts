import { Page, type SourceDocument } from '#core/folio'
import type { Quad, SheetFormat } from '#core/photo'
import { loadDocument } from '../data/folios'
import { pageOfPicture } from '../paper/images'
import { photoRunner } from '../work/workers'

type ImagePage = Extract<Page, { kind: 'image' }>

/** Photos of sheets and things: their originals, and what is made of them in a worker. */
export const usePhotos = defineStore('photos', () => {
  const store = useFolio()
  const incoming = useIncoming()

  /** The photo that a page was made from, with its size in pixels. */
  async function original(page: ImagePage): Promise<{ blob: Blob; width: number; height: number }> {
    const blob = (await loadDocument(page.original ?? page.documentId)) ?? new Blob([])
    const bitmap = await createImageBitmap(blob, { imageOrientation: 'from-image' })
    const size = { width: bitmap.width, height: bitmap.height }
    bitmap.close()
    return { blob, ...size }
  }

  /** Corners of a sheet in a photo, or null. */
  const findCorners = async (blob: Blob) => (await photoRunner().run('corners', blob)) as Quad | null

  /**
   * Makes a clean picture of a photo; the page shows it, and keeps the photo as its original.
   * @param id of the new document; @param format of the sheet, where she says it
   */
  async function clean(page: ImagePage, corners: Quad, even: boolean, id: string, format: SheetFormat = 'guess') {
    const { blob } = await original(page)
    const made = (await photoRunner().run('clean', {
      blob,
      corners: JSON.parse(JSON.stringify(corners)),
      even,
      format,
    })) as {
      blob: Blob
      width: number
      height: number
    }
    const source = store.folio!.documents.find(d => d.id === (page.original ?? page.documentId))
    const document: SourceDocument = {
      id,
      name: source?.name ?? 'Photo',
      mime: 'image/jpeg',
      bytes: made.blob.size,
      pageCount: 1,
      password: '',
    }
    await incoming.replacePicture(page.id, 'straighten the photo', document, made.blob, pageOfPicture(made), {
      original: page.original ?? page.documentId,
      cleaning: { corners: JSON.parse(JSON.stringify(corners)) as Quad, even },
    })
  }

  /** Shows the photo again as it was taken. */
  async function restore(page: ImagePage) {
    if (!page.original) return
    const size = pageOfPicture(await original(page))
    store.change('show the photo as it was', f => {
      const i = f.pages.findIndex(p => p.id === page.id)
      f.pages[i] = Page.parse({
        ...f.pages[i],
        documentId: page.original,
        original: null,
        cleaning: null,
        turns: 0,
        ...size,
      })
    })
  }

  return { original, findCorners, clean, restore }
})
