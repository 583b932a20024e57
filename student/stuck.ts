import { HAND_IN_VERSION, type Stuck } from '../core/lesson/handIn'
import { clockTime } from '../core/publish/names'
import { copy, saveFile } from './files'
import { one } from './dom'
import type { QuestionView } from './question'
import { SENT, sent, takesMessages } from './send'

/** "I am stuck here": the question, the moment, the step, what stands on the board, and, if she wants, her attempt. */
export function stuck(view: QuestionView): void {
  const { section } = view
  const panel = one<HTMLDetailsElement>(section, '.stuck')
  const where = () => {
    const { replay } = view
    const step = replay?.lesson.steps[replay.step]
    return { t: Math.round(replay?.time ?? 0), step: step?.title ?? '', index: replay?.step ?? 0 }
  }
  const line = () => {
    const { t, step } = where()
    return `${document.title}, question ${section.dataset.number}, at ${clockTime(t)}${step ? ` (“${step}”)` : ''}`
  }
  panel.addEventListener('toggle', () => {
    if (!panel.open) return
    view.replay?.pause()
    one(panel, '.where').textContent = line()
  })
  const message = (): Stuck => {
    const { t, step, index } = where()
    const withOwn = one<HTMLInputElement>(panel, '.with-own').checked
    return {
      form: 'orthograph-stuck',
      version: HAND_IN_VERSION,
      ...view.named,
      t,
      step,
      stepIndex: index,
      says: one<HTMLTextAreaElement>(panel, 'textarea').value.slice(0, 4000),
      ...(withOwn ? { attempt: view.own } : {}),
    }
  }
  const done = (text: string) => {
    one(panel, '.done').textContent = text
  }
  const send = one<HTMLButtonElement>(panel, '.send')
  send.hidden = !takesMessages
  send.addEventListener('click', () => {
    send.disabled = true
    done('It is being sent.')
    void sent(message()).then(answer => {
      send.disabled = false
      done(answer)
      if (answer === SENT) one<HTMLTextAreaElement>(panel, 'textarea').value = ''
    })
  })
  one(panel, '.save').addEventListener('click', () => {
    const name = `stuck-${(section.dataset.number ?? '').replace(/[^\w-]+/g, '')}-${clockTime(where().t).replace(':', '-')}.json`
    saveFile(name, message())
    done(`Saved as ${name}. Hand it to your teacher in your own way.`)
  })
  one(panel, '.copy').addEventListener('click', () => {
    const text = `${line()}\n${message().says}`.trim()
    void copy(text).then(copied => {
      done(copied ? 'Copied.' : text)
    })
  })
}
