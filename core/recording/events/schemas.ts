import { z } from 'zod'
import { StrokeEvent } from './stroke.schema'
import { WriteEvent } from './write.schema'
import { PlaceEvent } from './place.schema'
import { ChangeEvent } from './change.schema'
import { AlterEvent } from './alter.schema'
import { SplitEvent } from './split.schema'
import { EraseEvent } from './erase.schema'
import { UndoEvent } from './undo.schema'
import { RedoEvent } from './redo.schema'
import { FrameEvent } from './frame.schema'
import { LookEvent } from './look.schema'
import { SpotEvent } from './spot.schema'
import { TrailEvent } from './trail.schema'
import { StepEvent } from './step.schema'
import { PauseEvent } from './pause.schema'
import { TurnEvent } from './turn.schema'
import { BackEvent } from './back.schema'

export { Points } from './fields'
export type {
  StrokeEvent,
  WriteEvent,
  PlaceEvent,
  ChangeEvent,
  AlterEvent,
  SplitEvent,
  EraseEvent,
  UndoEvent,
  RedoEvent,
  FrameEvent,
  LookEvent,
  SpotEvent,
  TrailEvent,
  StepEvent,
  PauseEvent,
  TurnEvent,
  BackEvent,
}

/** All that can happen in a take. Its kinds, with what each means, are the registry's (`index.ts`). */
export const TakeEvent = z.discriminatedUnion('type', [
  StrokeEvent,
  EraseEvent,
  UndoEvent,
  RedoEvent,
  StepEvent,
  PauseEvent,
  FrameEvent,
  PlaceEvent,
  ChangeEvent,
  AlterEvent,
  SplitEvent,
  WriteEvent,
  LookEvent,
  SpotEvent,
  TrailEvent,
  BackEvent,
  TurnEvent,
])
export type TakeEvent = z.infer<typeof TakeEvent>
