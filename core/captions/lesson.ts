import { nameOfStep, type Cut, type NameOf } from '../cut/cut'
import { timedToSpeech, type Spoken } from './spoken'
import { spreadWords, type Cue } from './vtt'

/**
 * Captions of a cut from its steps: what was said there, or the step's name where no words are kept. Cut ms.
 * @param spoken where somebody speaks, as far as that is known: words are there, not in the silence between
 */
export function captionsOf(cut: Cut, nameOf: NameOf = nameOfStep, spoken: readonly Spoken[] = []): Cue[] {
  return cut.steps.flatMap(s => {
    const words = s.step.words.trim()
    const cues = spreadWords(words || nameOf(s), s.from, s.to)
    return words ? timedToSpeech(cues, s, spoken) : cues
  })
}
