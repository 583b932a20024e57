import { answering } from '../../classSite/routes'

/** Turns the pad off. */
export default defineEventHandler(event =>
  answering(event, () => {
    closePad(getQuery(event).key)
    return null
  }),
)
