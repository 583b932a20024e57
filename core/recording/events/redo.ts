import { toggling } from './toggling'
import type { RedoEvent } from './redo.schema'

export const redo = toggling<RedoEvent>(false)
