import Papa from 'papaparse'
import { describe, expect, it } from 'vitest'
import {
  applyKey,
  isAnswered,
  marksOf,
  readAnswer,
  readKeyRows,
  readKeyText,
  readNumber,
  readPlace,
  targetMinutes,
} from '../../core/folio'
import { folio, question } from '../support/make'

const part = (label: string, marks: number | null = null) => ({
  id: `part-${label.replace(/\W/g, '')}`,
  label,
  marks,
  answer: '',
  place: null,
})

describe('answers', () => {
  it.each([
    ['7', 7],
    ['−7', -7],
    ['1 250,5', 1250.5],
    ['1,250', 1250],
    ['3.2 × 10^4', 32000],
    ['6.4e-3', 0.0064],
    ['3,5', 3.5],
  ])('%s is a number', (text, value) => expect(readNumber(text)).toBeCloseTo(value, 10))
  it.each([
    ['', Number.NaN],
    ['abc', Number.NaN],
    ['1.2.3', Number.NaN],
  ])('"%s" is none', text => expect(readNumber(text)).toBeNaN())
  it.each([
    ['19.5 m ± 0.5', { kind: 'number', value: 19.5, tolerance: 0.5, unit: 'm' }],
    ['40 ± 2 %', { kind: 'number', value: 40, tolerance: 0.8, unit: '' }],
    ['-37 °C', { kind: 'number', value: -37, tolerance: 0, unit: '°C' }],
    ['a = 3.52 m/s² ± 0.03', { kind: 'number', value: 3.52, tolerance: 0.03, unit: 'm/s²' }],
    ['4x + 1', { kind: 'expression', text: '4x + 1' }],
    ['a square', { kind: 'words', text: 'a square' }],
    ['', { kind: 'none' }],
  ])('%s is understood', (text, answer) => {
    const read = readAnswer(text)
    if (read.kind === 'number' && answer.kind === 'number')
      expect({ ...read, tolerance: Math.round(read.tolerance * 1e6) / 1e6 }).toEqual(answer)
    else expect(read).toEqual(answer)
  })
  it('a letter is an option only where there are options', () => {
    expect(readAnswer('(b)', ['A', 'B'])).toEqual({ kind: 'option', label: 'B' })
    expect(readAnswer('B')).toEqual({ kind: 'words', text: 'B' })
  })
  it.each([
    ['3b(ii)', { number: '3', part: 'b(ii)' }],
    ['Q3 (b)', { number: '3', part: 'b' }],
    ['1.2', { number: '1.2', part: '' }],
    ['IV', { number: 'IV', part: '' }],
    ['x y', null],
  ])('%s names a place', (text, place) => expect(readPlace(text)).toEqual(place))
  it('a pasted list is read line by line, several on one line, too', () => {
    expect(
      readKeyText('1. B\n2a) 17 cm ± 0.5\n\n3 x = 24\n4. C  5. D  6. A\nnothing here').lines.map(l => [
        l.number,
        l.part,
        l.answer,
      ]),
    ).toEqual([
      ['1', '', 'B'],
      ['2', 'a', '17 cm ± 0.5'],
      ['3', '', 'x = 24'],
      ['4', '', 'C'],
      ['5', '', 'D'],
      ['6', '', 'A'],
    ])
    expect(readKeyText('1. B\nnothing here').problems).toEqual([
      { line: 2, text: 'nothing here', why: "it does not begin with a question's number" },
    ])
  })
  it('a table is read through a standard CSV parser; lines that cannot be read are named', () => {
    const csv = 'Question,Answer,Marks\n1,B,2\n2a,"17 cm, about",3\n,7,1\n3,,1\n4,"say ""yes""",x\n'
    const read = readKeyRows(Papa.parse<string[]>(csv).data)
    expect(read.lines).toEqual([
      { number: '1', part: '', answer: 'B', marks: 2 },
      { number: '2', part: 'a', answer: '17 cm, about', marks: 3 },
    ])
    expect(read.problems.map(p => p.line)).toEqual([4, 5, 6])
  })
  it('a key goes into its questions and parts; what has no place is given back', () => {
    const f = folio({ questions: [question('q1', '1'), question('q2', '2', { parts: [part('a'), part('b(i)')] })] })
    expect(applyKey(f, readKeyText('1. B\n2a) 7\n2b(i)) 9\n5. none').lines).map(l => l.number)).toEqual(['5'])
    expect([f.questions[0]!.answer, ...f.questions[1]!.parts.map(p => p.answer)]).toEqual(['B', '7', '9'])
    expect(f.questions.map(isAnswered)).toEqual([true, true])
  })
  it('marks set the target time: a minute a mark, for the folio or one question otherwise', () => {
    const q = question('q', '1', { parts: [part('a', 2), part('b', 5), part('b(i)', 3), part('b(ii)', 2)] })
    expect(marksOf(q)).toBe(7)
    expect([
      targetMinutes(q, { minutesAMark: 1 }),
      targetMinutes(q, { minutesAMark: 1.5 }),
      targetMinutes({ ...q, minutes: 4 }, { minutesAMark: 1 }),
      targetMinutes(question('r', '2'), { minutesAMark: 1 }),
    ]).toEqual([7, 10.5, 4, null])
  })
})
