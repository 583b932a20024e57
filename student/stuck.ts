import { HAND_IN_VERSION, type Stuck } from '../core/lesson/handIn'
import { clockTime } from '../core/publish/names'
import { copy, saveFile } from './files'
import { one } from './dom'
import type { QuestionView } from './question'

/** Whether the host that the page stands on takes messages to the teacher; from a folder there is none. */
const takesMessages = document.documentElement.dataset.takes === 'messages' && /^https?:/.test(location.protocol)
const SENT = 'Sent. Your teacher answers in class, or on this page.'
const KEEP = 'Save it as a file, and hand it in your own way.'
/** What is said when the host does not take it, by its answer. */
const REFUSED: Record<number, string> = {
  413: `What you wrote on the picture is too much to be sent. Send it without that, or: ${KEEP.toLowerCase()}`,
  429: 'Many are asking at this moment. Try again in a minute.',
  507: `Your teacher’s inbox is full. ${KEEP}`,
}

/** Sends a message. @returns what to say */
async function sent(message: Stuck): Promise<string> {
  try {
    const { ok, status } = await fetch('messages', { method: 'POST', body: JSON.stringify(message) })
    return ok ? SENT : (REFUSED[status] ?? `It could not be sent. ${KEEP}`)
  } catch {
    return `It could not be sent: there is no connection. ${KEEP}`
  }
}

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
