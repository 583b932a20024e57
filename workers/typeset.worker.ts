import { z } from 'zod'
import { NOTATIONS } from '../core/folio/thing'
import { typeset } from '../core/maths/typeset'
import { serveJobs } from './job'

const Line = z.object({
  source: z.string(),
  notation: z.enum(NOTATIONS),
  fit: z.object({ width: z.number().optional(), aside: z.number().optional() }).optional(),
})

/** Typesets lines away from the interface; the typesetter is large and loaded with this worker. */
serveJobs(self, {
  typeset: async value => {
    const { source, notation, fit } = Line.parse(value)
    return typeset(source, notation, fit)
  },
})
