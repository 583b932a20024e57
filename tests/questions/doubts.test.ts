import { describe, expect, it } from 'vitest'
import { FAIRLY_SURE, SURE, withDoubts, type FoundPart, type FoundQuestion } from '../../core/questions'

const box = { x: 50, y: 100, w: 400, h: 80 }
const place = (y = 100, page = 0) => ({ page, box: { ...box, y } })
const part = (label: string, marks: number | null = null): FoundPart => ({ label, marks, place: place() })
const options = (letters: string) => [...letters].map(label => ({ label, text: label, place: place() }))
const question = (over: Partial<FoundQuestion>, y = 100): FoundQuestion => ({
  label: '1',
  text: 'Work it out.',
  marks: null,
  places: [place(y)],
  parts: [],
  options: [],
  confidence: 0.9,
  shared: null,
  ...over,
})
const sure = (...questions: FoundQuestion[]) => withDoubts(questions).map(q => q.confidence >= SURE)

describe('what a proposal is said to be', () => {
  it('is sure where parts, options and marks hang together', () => {
    const parts = [part('a', 2), part('b', 4), part('b(i)', 1), part('b(ii)', 3)]
    expect(sure(question({ parts, marks: 6 }), question({ options: options('ABCD') }, 300))).toEqual([true, true])
    expect(sure(question({ parts: [part('i'), part('ii'), part('iii')] }))).toEqual([true])
    expect(sure(question({ parts: [part('1'), part('2')] }))).toEqual([true])
  })

  it('is not where a part or an option is left out', () => {
    expect(sure(question({ parts: [part('a'), part('c')] }))).toEqual([false])
    expect(sure(question({ parts: [part('b')] }))).toEqual([false])
    expect(sure(question({ parts: [part('a'), part('a(ii)')] }))).toEqual([false])
    expect(sure(question({ options: options('ABD') }))).toEqual([false])
    expect(sure(...['ABCD', 'ABCD', 'AB'].map((o, i) => question({ options: options(o) }, 100 * i)))).toEqual([
      true,
      true,
      false,
    ])
  })

  it('is not where marks are missing beside others, or do not add up', () => {
    expect(sure(question({ marks: 3 }), question({ marks: 2 }, 200), question({}, 300))).toEqual([true, true, false])
    expect(sure(question({ parts: [part('a', 2), part('b')] }))).toEqual([false])
    expect(sure(question({ parts: [part('a', 2), part('b', 2)], marks: 5 }))).toEqual([false])
  })

  it('is not where it lies over the next one; several doubts make it one to look at twice', () => {
    expect(sure(question({}), question({}, 150), question({}, 400))).toEqual([false, false, true])
    const [q] = withDoubts([question({ parts: [part('a', 2), part('c')], options: options('BD'), marks: 9 })])
    expect(q!.confidence).toBeLessThan(FAIRLY_SURE)
  })
})
