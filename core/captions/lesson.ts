import type { Cut } from '../cut/cut'
import { stepName } from '../cut/ledger'
import { spreadWords, type Cue } from './vtt'

/** Captions of a cut from its steps: what was said there, or the step's name where no words are kept. Cut ms. */
export function captionsOf(cut: Cut): Cue[] {
  return cut
    .keptSteps()
    .flatMap(({ step, index, from, to }) => spreadWords(step.words.trim() || stepName(step, index), from, to))
}
