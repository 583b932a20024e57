import { z } from 'zod'
import { writeArchive } from '../core/folio/archive'
import { Trouble } from '../core/folio/trouble'
import { whatSwells } from '../core/folio/swells'
import { readFolioFile } from '../core/publish/folioFile'
import { serveJobs } from './job'
import { appendTo, createFile } from './opfs'

const Pack = z.object({
  name: z.string(),
  files: z.array(
    z.object({ path: z.string(), data: z.union([z.string(), z.instanceof(Blob)]), store: z.boolean().optional() }),
  ),
})
const Swells = z.object({ file: z.instanceof(Blob), mime: z.string() })
const Read = z.object({ file: z.instanceof(Blob), name: z.string() })

/** Packs and unpacks zip files away from the interface. */
serveJobs(self, {
  async pack(value, { progress, signal }) {
    const { name, files } = Pack.parse(value)
    const file = await createFile(name)
    try {
      await writeArchive(files, appendTo(file), progress, signal)
      file.close()
      return name
    } catch (error) {
      await file.discard()
      throw error
    }
  },
  async read(value, { progress }) {
    const { file, name } = Read.parse(value)
    const whole = await readFolioFile(file, name, () => progress(null))
    for (const doc of whole.folio.documents) {
      const swells = await whatSwells(whole.documents.get(doc.id)!, doc.mime)
      if (swells)
        throw new Trouble(
          'file-swells',
          `${doc.name} in ${name} cannot be opened: ${swells}.`,
          'Nothing in this browser was changed.',
          'Do not trust this file; ask whoever sent it for another copy.',
        )
      progress(null)
    }
    return whole
  },
  /** What of a PDF or picture would take all memory, in words; null when nothing does. */
  async swells(value) {
    const { file, mime } = Swells.parse(value)
    return whatSwells(file, mime)
  },
})
