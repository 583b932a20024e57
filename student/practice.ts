import { checkTyped } from '../core/publish/check'
import { keep, kept } from './kept'
import { all, one } from './dom'

const SAYS = {
  right: 'That is right.',
  wrong: 'Not yet. Look once more, or open the answer.',
  unit: 'The number is right; look at the unit.',
  form: 'The value is right; look at how it is to be written.',
  compare: 'Open the answer and compare.',
}

/** Practice questions: her answer is checked where it can be, else compared by eye. It stays in her browser. */
export function practice(): void {
  all(document, '.practice-list form').forEach((form, i) => {
    const field = one<HTMLInputElement>(form, 'input')
    const says = one(form, '.says')
    const name = `answer ${form.dataset.practice}`
    // Before, it was kept by its place.
    field.value = kept(name) ?? kept(`answer ${i}`) ?? ''
    form.addEventListener('submit', e => {
      e.preventDefault()
      keep(name, field.value)
      const verdict = checkTyped(form.dataset.answer ?? '', field.value)
      says.textContent = field.value.trim() ? SAYS[verdict] : 'Write your answer first.'
      says.dataset.verdict = verdict
    })
  })
}
