import { toggling } from './toggling'
import type { UndoEvent } from './undo.schema'

export const undo = toggling<UndoEvent>(true)
