import { answering, needsMachineOrKey } from '../../classSite/routes'

/** Where the pad can be turned on: → `{addresses}`. */
export default defineEventHandler(event =>
  answering(event, () => {
    needsMachineOrKey(event)
    return { addresses: padAddresses() }
  }),
)
