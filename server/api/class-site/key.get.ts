import { Refusal } from '../../classSite/refusal'
import { answering } from '../../classSite/routes'
import { dataFolder } from '../../data'
import { isOwnOrigin, isSameMachine } from '../../guard'
import { publishingKey } from '../../publishingKey'

/** The publishing key, for the application on the same machine; elsewhere it has to be typed. */
export default defineEventHandler(event =>
  answering(event, () => {
    const { req } = event.node
    if (!isSameMachine(req) || !isOwnOrigin(req.headers))
      throw new Refusal(403, 'The publishing key has to be typed here')
    setHeader(event, 'Cache-Control', 'no-store')
    return { key: publishingKey(dataFolder()) }
  }),
)
