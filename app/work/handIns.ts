import type { Edition } from '#core/edition'
import { Trouble, type Folio } from '#core/folio'
import { outlineStroke } from '#core/ink'
import { OWN_INK, type Lesson, type LessonView } from '#core/lesson'
import { MOST_HAND_IN, readHandIn, type ReadHandIn } from '#core/publish'
import { fillOutline, viewScale, type Context2D } from '#core/scene'
import { pictureOfFrame } from '../paper/pageStore'
import { pictureBlob, scenePageOf } from './lesson'
import { pictureOfMoment } from './still'

const WIDTH = 1600

/** Opens a file that a student handed in. @throws Trouble that names the file */
export async function openHandIn(file: File, folio: Folio): Promise<ReadHandIn> {
  if (file.size > MOST_HAND_IN)
    throw new Trouble(
      'hand-in-too-large',
      `${file.name} has ${Math.round(file.size / 1024 ** 2)} MB; what a student page saves is never so large.`,
      'Nothing of the folio was changed.',
      'See whether it is another file.',
    )
  return readHandIn(await file.text(), file.name, folio)
}

/** The board at the moment a student asks about, with her own ink over it. */
export async function stuckPicture(
  folio: Folio,
  edition: Edition,
  { stuck }: Extract<ReadHandIn, { kind: 'stuck' }>,
): Promise<Blob> {
  const board = edition.boardAt(Math.min(stuck.t, edition.duration))
  const frame = board.frame ?? edition.first
  const picture = await createImageBitmap(await pictureOfMoment(folio, frame, board, WIDTH))
  const canvas = new OffscreenCanvas(picture.width, picture.height)
  const context = canvas.getContext('2d')!
  context.drawImage(picture, 0, 0)
  picture.close()
  const { scale, dx, dy } = viewScale(board.look ?? frame.box, canvas.width)
  context.setTransform(scale, 0, 0, scale, dx, dy)
  for (const points of stuck.attempt ?? [])
    for (const outline of outlineStroke({ id: '', role: 'working', tool: 'pen', points }))
      fillOutline(context as unknown as Context2D, { ...outline, colour: OWN_INK })
  return canvas.convertToBlob({ type: 'image/png' })
}

/** A student's explanation on the folio's own page, to be played; what it brings of a page itself is not used. */
export async function explained(folio: Folio, lesson: Lesson): Promise<{ lesson: Lesson; release: () => void }> {
  const frame = lesson.first
  const page = folio.pages.find(p => p.id === frame.pageId)!
  const canvas = await pictureOfFrame(folio, frame, WIDTH / frame.box.w)
  const url = URL.createObjectURL(await pictureBlob(canvas))
  const view: LessonView = {
    frame,
    page: scenePageOf(page),
    pictures: [{ path: url, width: canvas.width }],
  }
  return { lesson: { ...lesson, views: [view], sound: null }, release: () => URL.revokeObjectURL(url) }
}
