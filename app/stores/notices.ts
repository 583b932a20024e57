import { asTrouble, Trouble } from '#core/folio'

/** Troubles and questions that the teacher has to see, wherever she is. */
export const useNotices = defineStore('notices', () => {
  const troubles = ref<{ id: number, trouble: Trouble }[]>([])
  const prompt = shallowRef<{ title: string, text: string, secret: boolean, accept: string, answer: (value: string | null) => void } | null>(null)
  let next = 1

  /** Shows what went wrong until it is put away. The same sentence is not shown twice at once; a cancel is not trouble. */
  function tell(error: unknown, doing: string) {
    const trouble = asTrouble(error, doing)
    if (trouble.code === 'cancelled') return
    if (trouble.code === 'unexpected') console.warn(trouble.cause ?? trouble)
    troubles.value = [...troubles.value.filter(t => t.trouble.message !== trouble.message), { id: next++, trouble }]
  }

  /** Says something that is no trouble, where troubles are said. */
  function say(text: string) {
    tell(new Trouble('note', text, '', ''), '')
  }

  function putAway(id: number) {
    troubles.value = troubles.value.filter(t => t.id !== id)
  }

  /** Asks for a line of text (or, without `secret`, only for agreement). @returns null when she declines */
  function ask(title: string, text: string, accept: string, secret = false): Promise<string | null> {
    return new Promise((resolve) => {
      prompt.value = { title, text, secret, accept, answer: (value) => { prompt.value = null; resolve(value) } }
    })
  }

  return { troubles, prompt, tell, say, putAway, ask }
})
