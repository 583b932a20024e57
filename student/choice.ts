import type { Lesson } from '../core/lesson/form'
import { kindOf } from '../core/recording/events'
import { all, one, put } from './dom'
import { keep, kept } from './kept'

/** When the teacher shows the answer, ms; the end where it is not marked. */
export function answerShown({ events, duration }: Lesson): number {
  const shows = events.find(e =>
    kindOf(e)
      .objects(e)
      .some(({ thing }) => thing.kind === 'option' && thing.state === 'answer'),
  )
  return shows?.t ?? duration - 100
}

/** Options to choose from: what she chose before the teacher showed the answer is told when that is shown. */
export class Choice {
  private readonly field: HTMLElement | null
  private shownFrom = Number.POSITIVE_INFINITY
  private t = 0

  constructor(section: HTMLElement, question: string) {
    this.field = section.querySelector<HTMLElement>('.choice')
    if (!this.field) return
    for (const radio of all<HTMLInputElement>(this.field, 'input')) {
      radio.checked = kept(`choice ${question}`) === radio.value
      radio.addEventListener('change', () => {
        keep(`choice ${question}`, radio.value)
        this.tell(this.t)
      })
    }
  }

  of(lesson: Lesson): void {
    this.shownFrom = answerShown(lesson)
  }

  tell(t: number): void {
    this.t = t
    if (!this.field) return
    const chosen = this.field.querySelector<HTMLInputElement>('input:checked')?.value
    const answer = this.field.dataset.answer ?? ''
    put(one(this.field, '.told'), chosen ? saidOf(chosen, answer, t >= this.shownFrom) : '')
  }
}

function saidOf(chosen: string, answer: string, isShown: boolean): string {
  if (!isShown) return 'You will be told when the answer is shown.'
  return chosen === answer ? `${chosen} is right.` : `You chose ${chosen}; the answer is ${answer}.`
}
