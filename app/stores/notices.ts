import { asTrouble, Trouble } from '#core/folio'

/** What is only said goes away by itself after so long, ms. */
const NOTE_MS = 8000
const DECLINE = 'Leave it'

interface Prompt {
  title: string
  text: string
  /** What is to be typed, by its name; shown as it is typed, or not. */
  field: { label: string; value: string; secret: boolean } | null
  accept: string
  /** The other way, where there are two beside doing nothing. */
  other: string
  /** What doing nothing is called. */
  decline: string
}

/** Troubles and questions that the teacher has to see, wherever she is. */
export const useNotices = defineStore('notices', () => {
  const troubles = ref<{ id: number; trouble: Trouble }[]>([])
  const prompt = shallowRef<(Prompt & { answer: (value: string | null) => void }) | null>(null)
  let next = 1

  /**
   * Shows what went wrong until it is put away. The same sentence is not shown twice at once; a cancel is not trouble.
   */
  function tell(error: unknown, doing: string) {
    const trouble = asTrouble(error, doing)
    if (trouble.code === 'cancelled') return
    if (trouble.code === 'unexpected') console.warn(trouble.cause ?? trouble)
    troubles.value = [...troubles.value.filter(t => t.trouble.message !== trouble.message), { id: next++, trouble }]
  }

  /** Says something that is no trouble, where troubles are said. */
  function say(text: string) {
    tell(new Trouble('note', text, '', ''), '')
    const { id } = troubles.value[troubles.value.length - 1]!
    setTimeout(() => putAway(id), NOTE_MS)
  }

  function putAway(id: number) {
    troubles.value = troubles.value.filter(t => t.id !== id)
  }

  /** Shows a prompt until it is answered. @returns null when she declines */
  function answerTo(shown: Prompt): Promise<string | null> {
    return new Promise(resolve => {
      prompt.value = {
        ...shown,
        answer: value => {
          prompt.value = null
          resolve(value)
        },
      }
    })
  }

  /** Asks for a secret by its name (or, without one, only for agreement). @returns null when she declines */
  const ask = (title: string, text: string, accept: string, secret = '', decline = DECLINE) =>
    answerTo({
      title,
      text,
      field: secret ? { label: secret, value: '', secret: true } : null,
      accept,
      other: '',
      decline,
    })

  /** Asks for a line of text. @param value what stands in it at first @returns null when she declines */
  const askLine = (title: string, text: string, accept: string, label: string, value: string) =>
    answerTo({ title, text, field: { label, value, secret: false }, accept, other: '', decline: DECLINE })

  /** Lets her choose between two ways. @returns null when she takes neither */
  async function choose(
    title: string,
    text: string,
    accept: string,
    other: string,
  ): Promise<'accept' | 'other' | null> {
    const value = await answerTo({ title, text, field: null, accept, other, decline: DECLINE })
    return value === null ? null : value === 'other' ? 'other' : 'accept'
  }

  return { troubles, prompt, tell, say, putAway, ask, askLine, choose }
})
