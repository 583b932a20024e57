import type { Edition } from '../edition'
import { kindOf } from '../recording/events'
import type { Lesson, LessonStep, LessonView } from './form'
import { laidOutIn } from './laid'

/** What a lesson has beside its edition. */
export interface LessonParts {
  views: LessonView[]
  documents: Lesson['documents']
  sound: Lesson['sound']
  /** A pause for the student with which it ends, where it is a hint. */
  end?: Lesson['turns'][number]
}

/** A question's edition as it is replayed. */
export function lessonOf(edition: Edition, { views, documents, sound, end }: LessonParts): Lesson {
  const { events, always, eased, first } = edition.shown
  const laid = laidOutIn([...events, ...always])
  return {
    duration: edition.duration,
    first,
    events: events.filter(e => kindOf(e).replayed),
    always,
    eased,
    views,
    documents,
    turns: [...edition.turns().filter(turn => turn.to > turn.t || turn.seconds > 0), ...(end ? [end] : [])],
    steps: stepsOf(edition),
    sound,
    ...(laid ? { laid } : {}),
  }
}

function stepsOf(edition: Edition): LessonStep[] {
  return edition.time.steps.map(step => {
    const part = edition.parts.get(step.place)
    const also = edition.contentIn(step).things.map(wordsIn).filter(Boolean).join(' ')
    return {
      t: step.from,
      to: step.to,
      title: edition.nameOf(step),
      ...(part ? { part } : {}),
      ...(also ? { also } : {}),
    }
  })
}

/** What stands in a thing, as it was typed. */
function wordsIn(thing: object): string {
  const said = thing as { source?: string; text?: string; reason?: string; label?: string }
  return [said.source, said.text, said.label, said.reason].filter(Boolean).join(' ')
}
