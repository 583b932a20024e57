import { z } from 'zod'
import { writeArchive } from '../core/folio/archive'
import { readFolioFile } from '../core/publish/folioFile'
import { serveJobs } from './job'
import { appendTo, createFile } from './opfs'

const Pack = z.object({
  name: z.string(),
  files: z.array(z.object({ path: z.string(), data: z.union([z.string(), z.instanceof(Blob)]), store: z.boolean().optional() })),
})
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
    }
    catch (error) {
      await file.discard()
      throw error
    }
  },
  async read(value) {
    const { file, name } = Read.parse(value)
    return readFolioFile(file, name)
  },
})
