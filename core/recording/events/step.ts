import { stepMark } from './stepMark'
import type { StepEvent } from './step.schema'

export const step = stepMark<StepEvent>()
