import { z } from 'zod'
import { NOTATIONS } from '../core/folio/thing'
import { typeset } from '../core/maths/typeset'
import { serveJobs } from './job'

const Line = z.object({ source: z.string(), notation: z.enum(NOTATIONS) })

/** Typesets lines away from the interface; the typesetter is large and loaded with this worker. */
serveJobs(self, {
  typeset: async value => {
    const { source, notation } = Line.parse(value)
    return typeset(source, notation)
  },
})
