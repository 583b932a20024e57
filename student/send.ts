import type { Explanation, Stuck } from '../core/lesson/handIn'

/** Whether the host that the page stands on takes messages to the teacher; from a folder there is none. */
export const takesMessages = document.documentElement.dataset.takes === 'messages' && /^https?:/.test(location.protocol)

export const SENT = 'Sent. Your teacher answers in class, or on this page.'
const KEEP = 'Save it as a file, and hand it in your own way.'
/** What is said when the host does not take it, by its answer. */
const REFUSED: Record<number, string> = {
  413: `It is too much to be sent. ${KEEP}`,
  429: 'Many are asking at this moment. Try again in a minute.',
  507: `Your teacher’s inbox is full. ${KEEP}`,
}

/** Sends what a student hands in to her teacher. @returns what to say */
export async function sent(handIn: Stuck | Explanation): Promise<string> {
  try {
    const { ok, status } = await fetch('messages', { method: 'POST', body: JSON.stringify(handIn) })
    return ok ? SENT : (REFUSED[status] ?? `It could not be sent. ${KEEP}`)
  } catch {
    return `It could not be sent: there is no connection. ${KEEP}`
  }
}
