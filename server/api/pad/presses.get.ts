import { answering } from '../../classSite/routes'

/** The pad's presses as they come, as server-sent events. */
export default defineEventHandler(event =>
  answering(event, () => {
    const pad = guardedPad(getQuery(event).key)
    const stream = createEventStream(event)
    const stop = pad.listen(press => {
      void stream.push(press)
    })
    stream.onClosed(async () => {
      stop()
    })
    return stream.send()
  }),
)
