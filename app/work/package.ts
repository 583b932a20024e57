import { questionName, Trouble } from '#core/folio'
import { digest, fileName, questionFileNames, sidecars, studentPage, type PublishedQuestion } from '#core/publish'
import type { ArchiveFile, Folio } from '#core/folio'
import script from '../../student/built/player.js?raw'
import style from '../../student/page.css?raw'
import { openFile } from '../data/files'
import type { Publication } from '../data/publications'
import { worksheetOf } from './worksheet'

/** Faces of the student page, served by the application. */
const FONTS = [
  'atkinson-hyperlegible-latin-400-normal',
  'atkinson-hyperlegible-latin-700-normal',
  'stix-two-text-latin-400-normal',
  'stix-two-text-latin-600-normal',
].map(name => `fonts/${name}.woff2`)

/** Hash of the player's script, as a Content-Security-Policy names it. */
export const playerHash = async () => `sha256-${await digest(script)}`

/**
 * The files of a student page: the page with its fonts, videos, posters, chapters, captions, the worksheet. Paths are
 * relative to the page.
 * @throws Trouble `video-gone` when a video is no longer there: a page is whole or not made
 */
export async function studentFiles(
  folio: Folio,
  publications: readonly Publication[],
  posters: ReadonlyMap<string, Blob>,
  signal: AbortSignal,
): Promise<ArchiveFile[]> {
  const names = questionFileNames(folio.questions)
  const files: ArchiveFile[] = []
  const questions: PublishedQuestion[] = []
  for (const question of folio.questions) {
    const publication = publications.find(p => p.questionId === question.id)
    if (!publication) continue
    const video = await openFile(publication.file)
    if (!video)
      throw new Trouble(
        'video-gone',
        `The video of ${questionName(question)} is no longer in this browser.`,
        'The take is untouched, and students see nothing half done.',
        'Render it again, then go on.',
      )
    const base = names.get(question.id)!
    const ending = publication.name.split('.').pop()!
    const poster = posters.get(question.id)
    const published: PublishedQuestion = {
      number: question.number,
      title: question.title,
      base: `videos/${base}`,
      duration: publication.durationMs,
      chapters: publication.chapters,
      captions: publication.captions,
      turns: publication.turns,
      video: { path: `videos/${base}.${ending}`, mime: publication.mime },
      ...(poster ? { poster: `videos/${base}.png` } : {}),
    }
    questions.push(published)
    files.push({ path: published.video.path, data: video, store: true })
    if (poster) files.push({ path: published.poster!, data: poster, store: true })
    for (const sidecar of sidecars(published)) files.push({ path: sidecar.path, data: sidecar.text })
  }
  const worksheet = await worksheetOf(folio, signal)
  const worksheets = worksheet
    ? [{ path: `worksheet/${fileName(folio.title, 'worksheet')}.pdf`, name: folio.title }]
    : []
  if (worksheet) files.push({ path: worksheets[0]!.path, data: worksheet, store: true })
  for (const path of FONTS) files.push({ path, data: await font(path), store: true })
  const html = await studentPage(
    { title: folio.title, course: folio.course, author: folio.author, questions, worksheets },
    { script, style },
  )
  return [{ path: 'index.html', data: html }, ...files]
}

async function font(path: string): Promise<Blob> {
  const response = await fetch(`/${path}`).catch(() => null)
  if (!response?.ok)
    throw new Trouble(
      'font-missing',
      'A font of the student page cannot be read.',
      'Nothing was published.',
      'See that the application is still running, then try once more.',
    )
  return response.blob()
}
