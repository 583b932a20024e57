import { describe, expect, it } from 'vitest'
import { labelsAt, letterValue } from '../../core/questions/labels'
import { romanValue } from '../../core/folio/counting'
import { bareMark, marksEach, marksIn, printsBareMarks } from '../../core/questions/marks'
import type { Line, Word } from '../../core/questions/model'
import { baselines, wordsOf } from '../../core/questions/words'

/** A line of words at usual gaps; "|" before a word makes the gap wide, "*" makes it bold. */
function line(text: string, y = 100): Line {
  let x = 60
  const words = text.split(' ').map((w, i): Word => {
    const wide = w.startsWith('|'),
      bold = w.includes('*')
    const clean = w.replace(/[|*]/g, '')
    const gap = i === 0 ? Infinity : wide ? 30 : 3
    x += i === 0 ? 0 : gap
    const word = { text: clean, x, y, w: clean.length * 5, size: 11, bold, gap }
    x += word.w
    return word
  })
  return { page: 0, area: 0, words, x: 60, right: x, y, size: 11, bold: false, text: words.map(w => w.text).join(' ') }
}
const read = (text: string, at = 0) =>
  labelsAt(line(text).words, at).map(r => r.labels.map(l => `${l.count}${l.dress}:${l.text}`).join('/'))

describe('labels', () => {
  it.each([
    ['1. Find', ['number.:1']],
    ['12) Find', ['number):12']],
    ['(3) Find', ['number():3']],
    ['Q4 Find', ['numberQ:4']],
    ['Q.5 Find', ['numberQ:5']],
    ['Question 6 Find', ['numberword:6']],
    ['QUESTION 6:', ['numberword:6']],
    ['Aufgabe 3 (6 Punkte)', ['numberword:3']],
    ['Zusatzaufgabe 4', ['numberword:4']],
    ['Ejercicio 3.', ['numberword:3']],
    ['Exercice n° 2', ['numberword:2']],
    ['Problem IV', ['romanUpperword:IV']],
    ['1.2 Simplify', ['dotted:1.2']],
    ['1.2.3 Simplify', ['deep:1.2.3']],
    ['A. Simplify', ['upper.:A']],
    ['IV. Simplify', ['romanUpper.:IV']],
    ['(iv) why', ['romanLower():iv']],
    ['(i) why', ['lower():i/romanLower():i']],
    ['*7 Find', ['number:7']],
    ['7 |Find', ['number:7']],
    ['1. (a) (i) Find', ['number.:1', 'lower():a', 'lower():i/romanLower():i']],
    ['1a Find', ['numberjoint:1', 'lower.:a']],
    ['2(b) Find', ['numberjoint:2', 'lower():b']],
    ['① Find', ['numberring:1']],
    ['Ⓑ |5 km', ['upperring:B']],
    ['1．', ['number.:1']],
    ['第3题', ['numberword:3']],
    ['б) найди', ['lower):б']],
  ])('%s', (text, labels) => expect(read(text.replace('．', '.'))).toEqual(labels))
  it.each([
    'Find the sum',
    '3.5 metres of rope',
    '12 apples are left',
    'question 3 shows',
    'Questions 3 and 4',
    'a rope',
    '2019. It rained'.replace('2019.', '2019'),
    'Question 3 to 5',
  ])('%s begins with none', text => expect(read(text)).toEqual([]))
  it('values of letters and Roman numerals', () => {
    expect(['i', 'iv', 'ix', 'xiv', 'xxi', 'iiii', 'vx', 'm', ''].map(romanValue)).toEqual([
      1, 4, 9, 14, 21, 0, 0, 0, 0,
    ])
    expect(['a', 'B', 'z', 'в', 'γ', '1', 'ab'].map(letterValue)).toEqual([1, 2, 26, 3, 3, 0, 0])
  })
})

describe('marks', () => {
  const marks = (text: string, bare = false) =>
    marksIn([line(text)], bare).map(m => `${m.value}${m.total ? ' total' : ''}${m.each ? ' each' : ''}`)
  it.each([
    ['Find it. [4]', ['4']],
    ['Find it. [4 marks]', ['4']],
    ['Find it. (1 mark)', ['1']],
    ['Find it. (3 points)', ['3']],
    ['Find it. (2 pts)', ['2']],
    ['Find it. |/5', ['5']],
    ['Find it. ____/5', ['5']],
    ['Find it. |___ / 3 P.', ['3']],
    ['(Total for Question 3 is 6 marks)', ['6 total']],
    ['[Total: 12]', ['12 total']],
    ['(Gesamt 7 Punkte)', ['7 total']],
    ['Find it. |4 marks', ['4']],
    ['Berechne. (2,5 Punkte)', ['2.5']],
    ['Halla x. (1 punto)', ['1']],
    ['Find it. [2½]', ['2.5']],
    ['Each question is worth 2 marks.', ['2 each']],
    ['Chaque question vaut 3 points.', ['3 each']],
    ['(2 pts each)', ['2 each']],
    ['Jede Aufgabe zählt 4 Punkte.', ['4 each']],
    ['Choose one answer. (one point each)', ['1 each']],
  ])('%s', (text, found) => expect(marks(text)).toEqual(found))
  it.each([
    'Find 3/5 of 60.',
    'Work out 3 /4 of it.',
    'It is at 4 km.',
    'See equation (3) above.',
    'TOTAL FOR THIS PAPER IS 80 MARKS',
    'A rope of [unknown] length',
  ])('%s carries none', text => expect(marks(text)).toEqual([]))
  it('one that is broken over two lines is read whole', () =>
    expect(marksIn([line('Find it. |[3'), line('marks]')], false).map(m => m.value)).toEqual([3]))
  it('"(4)" at the right edge is what a paper prints when several line up there', () => {
    const lines = [line('Find it now. |(4)'), line('Find it now. |(2)'), line('Find it.')]
    expect(lines.map(bareMark)).toEqual([4, 2, 0])
    expect(printsBareMarks(lines, () => lines[0]!.right)).toBe(true)
    expect(printsBareMarks(lines.slice(1), () => lines[0]!.right)).toBe(false)
    expect(marks('Find it now. |(4)', true)).toEqual(['4'])
    expect(marks('Find it now. |(4)')).toEqual([])
  })
  it('marks for each item are read from instructions', () =>
    expect([marksEach('2 marks each'), marksEach('Every problem counts 5 points'), marksEach('Answer all')]).toEqual([
      2,
      5,
      null,
    ]))
})

describe('words and lines', () => {
  const piece = (text: string, x: number, y: number, size = 11, bold = false, w = text.length * size * 0.47) => ({
    text,
    x,
    y,
    w,
    size,
    bold,
  })
  it('words are cut at spaces, and placed within their piece by the widths of their letters', () => {
    const words = wordsOf([piece('1. Find the mean', 60, 100, 11, false, 80)])
    expect(words.map(w => w.text)).toEqual(['1.', 'Find', 'the', 'mean'])
    expect(words[3]!.x + words[3]!.w).toBeCloseTo(140, 6)
    expect(words.every((w, i) => i === 0 || w.x > words[i - 1]!.x + words[i - 1]!.w - 0.001)).toBe(true)
  })
  it('full-width signs become ordinary, and invisible ones are gone', () =>
    expect(wordsOf([piece('１．\u200B Find', 0, 0)]).map(w => w.text)).toEqual(['1.', 'Find']))
  it('what touches is one word; a raised figure goes with its line; bold made by printing twice is bold', () => {
    const lines = baselines([
      piece('1', 60, 100, 11, false, 5.5),
      piece('.', 65.6, 100, 11, false, 2.7),
      piece('x', 90, 100, 11, false, 5),
      piece('2', 95.2, 95, 7, false, 3.5),
      piece('Next', 60, 130),
      piece('Twice', 60, 160, 11, false, 26),
      piece('Twice', 60.3, 160, 11, false, 26),
    ])
    expect(lines.map(l => l.map(w => w.text).join(' '))).toEqual(['1. x2', 'Next', 'Twice'])
    expect(lines[2]![0]!.bold).toBe(true)
  })
})
