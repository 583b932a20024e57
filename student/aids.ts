import { keepIt } from './keepIt'
import { practice } from './practice'
import { search } from './search'
import type { QuestionView } from './question'
import type { Front } from './front'
import { stuck } from './stuck'

/** What the player's script leaves for the one that comes after the lessons. */
export interface Opened {
  views: readonly QuestionView[]
  front: Front
}
declare global {
  interface Window {
    orthograph?: Opened
  }
}

/** What a lesson can be looked at without: the page's second script, behind its lessons. */
if (window.orthograph) {
  const { views, front } = window.orthograph
  practice()
  search(views, front)
  for (const view of views) stuck(view)
  void keepIt()
}
