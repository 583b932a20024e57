import { nameOfStep, type Cut, type NameOf } from '../cut/cut'
import { spreadWords, type Cue } from './vtt'

/** Captions of a cut from its steps: what was said there, or the step's name where no words are kept. Cut ms. */
export function captionsOf(cut: Cut, nameOf: NameOf = nameOfStep): Cue[] {
  return cut.steps.flatMap(s => spreadWords(s.step.words.trim() || nameOf(s), s.from, s.to))
}
