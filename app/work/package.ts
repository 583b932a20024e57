import { newId } from '#core/folio'
import { fileName, questionFileNames, sidecars, studentPage, type PublishedQuestion } from '#core/publish'
import type { ArchiveFile, Folio } from '#core/folio'
import script from '../../student/player.js?raw'
import style from '../../student/page.css?raw'
import { loadDocument } from '../data/folios'
import { openFile } from '../data/files'
import type { Publication } from '../data/publications'
import { filesRunner } from './workers'

/** The files of a student page: the page, videos, posters, chapters, captions, worksheets. Paths are relative to the page. */
export async function studentFiles(folio: Folio, publications: readonly Publication[], posters: ReadonlyMap<string, Blob>): Promise<ArchiveFile[]> {
  const names = questionFileNames(folio.questions)
  const files: ArchiveFile[] = []
  const questions: PublishedQuestion[] = []
  for (const question of folio.questions) {
    const publication = publications.find(p => p.questionId === question.id)
    const video = publication && await openFile(publication.file)
    if (!publication || !video) continue
    const base = names.get(question.id)!
    const ending = publication.name.split('.').pop()!
    const poster = posters.get(question.id)
    const published: PublishedQuestion = {
      number: question.number, title: question.title, base: `videos/${base}`, duration: publication.durationMs, chapters: publication.chapters, captions: publication.captions, turns: publication.turns,
      video: { path: `videos/${base}.${ending}`, mime: publication.mime }, ...(poster ? { poster: `videos/${base}.png` } : {}),
    }
    questions.push(published)
    files.push({ path: published.video.path, data: video, store: true })
    if (poster) files.push({ path: published.poster!, data: poster, store: true })
    for (const sidecar of sidecars(published)) files.push({ path: sidecar.path, data: sidecar.text })
  }
  const worksheets: { path: string, name: string }[] = []
  const used = new Set<string>()
  for (const doc of folio.documents) {
    const blob = await loadDocument(doc.id)
    if (!blob) continue
    let path = `worksheet/${fileName(doc.name.replace(/\.pdf$/i, ''), 'worksheet')}.pdf`
    while (used.has(path)) path = path.replace(/(-\d+)?\.pdf$/, `-${used.size + 1}.pdf`)
    used.add(path)
    worksheets.push({ path, name: doc.name })
    files.push({ path, data: blob, store: true })
  }
  const html = await studentPage({ title: folio.title, course: folio.course, author: folio.author, questions, worksheets }, { script, style })
  return [{ path: 'index.html', data: html }, ...files]
}

/** Packs files into a zip on disk. @returns the zip and the name of the temporary it stands in */
export async function packZip(files: readonly ArchiveFile[], onProgress?: (share: number) => void, signal?: AbortSignal): Promise<{ file: File, temporary: string }> {
  const temporary = `package-${newId()}.zip`
  await filesRunner().run('pack', { name: temporary, files: [...files] }, { signal, onProgress: v => onProgress?.(Number(v)) })
  return { file: (await openFile(temporary))!, temporary }
}
