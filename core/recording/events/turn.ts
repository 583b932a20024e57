import { stepMark } from './stepMark'
import type { TurnEvent } from './turn.schema'

export const turn = stepMark<TurnEvent>()
