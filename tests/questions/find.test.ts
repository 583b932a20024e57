import { describe, expect, it } from 'vitest'
import { newFolio, Page, type Folio } from '../../core/folio'
import { findQuestions, keyLines, propose, type PageText, type TextPiece } from '../../core/questions'

/** A page from lines of words: a number is a jump to that place across, a star makes bold. */
function page(...lines: [y: number, ...what: (number | string)[]][]): PageText {
  const pieces: TextPiece[] = []
  for (const [y, ...what] of lines) {
    let x = 60
    for (const w of what) {
      if (typeof w === 'number') {
        x = w
        continue
      }
      const text = w.replace('*', '')
      pieces.push({ text, x, y, w: text.length * 5.2, size: 11, bold: w.startsWith('*') })
      x += text.length * 5.2 + 3
    }
  }
  return { width: 595, height: 842, pieces, outlines: [] }
}
const said = (...pages: PageText[]) =>
  findQuestions(pages).questions.map(q => [
    q.label,
    q.marks,
    q.parts.map(p => `${p.label}${p.marks === null ? '' : `:${p.marks}`}`).join(' '),
    q.options.map(o => o.label).join(''),
  ])

describe('finding questions', () => {
  it('takes the numbers as they come, with parts, sub-parts and marks', () => {
    expect(
      said(
        page(
          [100, '1.', 85, 'Find the sum of 3 and 4. [2]'],
          [140, '2.', 85, 'A path runs round a garden.'],
          [160, 85, '(a) Find its length.', 500, '[3]'],
          [180, 85, '(b) Explain.'],
          [200, 105, '(i) why', 500, '[1]'],
          [220, 105, '(ii) how', 500, '[2]'],
          [260, '3.', 85, 'Draw it. (4 marks)'],
        ),
      ),
    ).toEqual([
      ['1', 2, '', ''],
      ['2', 6, 'a:3 b:3 b(i):1 b(ii):2', ''],
      ['3', 4, '', ''],
    ])
  })
  it('a list of clues or steps, and the letters of a figure, are no parts', () => {
    expect(
      said(
        page(
          [100, '1.', 85, 'Ana, Ben and Cora each have a pet. Use the clues.'],
          [120, 105, '1. Ana does not have the dog.'],
          [135, 105, '2. Ben has the cat.'],
          [160, 85, '(a) Who has the dog?'],
          [175, 85, '(b) Who has the fish?'],
          [210, '2.', 85, 'Put the steps in order.'],
          [230, 85, '1) Heat the water.'],
          [245, 85, '2) Stir.'],
          [280, '3.', 85, 'The triangle has the angles shown.'],
          [300, 200, 'A'],
          [360, 120, 'B'],
          [360, 320, 'C'],
          [380, 85, 'Find angle B.'],
          [420, '4.', 85, 'Draw it.'],
        ),
      ).map(q => [q[0], q[2]]),
    ).toEqual([
      ['1', 'a b'],
      ['2', ''],
      ['3', ''],
      ['4', ''],
    ])
  })
  it.each([
    ['Question 1', 'Question 2', ['1', '2']],
    ['Aufgabe 1', 'Aufgabe 2', ['1', '2']],
    ['Ejercicio 3', 'Ejercicio 4', ['3', '4']],
    ['Exercice 1 :', 'Exercice 2 :', ['1', '2']],
    ['Q1', 'Q2', ['1', '2']],
    ['(1)', '(2)', ['1', '2']],
    ['1)', '2)', ['1', '2']],
    ['I.', 'II.', ['I', 'II']],
    ['A.', 'B.', ['A', 'B']],
    ['1.1', '1.2', ['1.1', '1.2']],
    ['*1', '*2', ['1', '2']],
  ])('reads %s', (a, b, labels) => {
    expect(
      said(
        page(
          [100, a, 130, 'Find the sum of three and four.'],
          [150, 130, 'Give a reason.'],
          [200, b, 130, 'How high does it rise in an hour?'],
          [250, 130, 'Write it down.'],
        ),
      ).map(q => q[0]),
    ).toEqual(labels)
  })
  it('"1a" and "1b" are parts of one question', () => {
    expect(
      said(
        page(
          [100, '1a', 85, 'Find the sum. [2]'],
          [130, '1b', 85, 'Draw it. [1]'],
          [160, '2a', 85, 'How long is it? [3]'],
          [190, '2b', 85, 'Explain. [1]'],
        ),
      ).map(q => q.slice(0, 3)),
    ).toEqual([
      ['1', 3, 'a:2 b:1'],
      ['2', 4, 'a:3 b:1'],
    ])
  })
  it('what stands above later numbers is theirs, also where 1a and 1b were joined before', () => {
    const paper = findQuestions([
      page(
        [100, '1a', 85, 'Find the sum. [2]'],
        [130, '1b', 85, 'Draw it. [1]'],
        [160, '2a', 85, 'How long is it? [3]'],
        [190, '2b', 85, 'Explain. [1]'],
        [230, 60, 'Use the table below for questions 3 to 4.'],
        [260, '3a', 85, 'How high is it? [1]'],
        [290, '3b', 85, 'How far? [1]'],
        [320, '4a', 85, 'How cold? [2]'],
        [350, '4b', 85, 'How warm? [2]'],
      ),
    ])
    expect(
      paper.questions.map(q => [q.label, q.shared === null ? null : paper.instructions[q.shared]!.text.slice(0, 13)]),
    ).toEqual([
      ['1', null],
      ['2', null],
      ['3', 'Use the table'],
      ['4', 'Use the table'],
    ])
  })
  it.each([
    ['across', [[120, 85, 'A', 105, '1 km', 185, 'B', 205, '5 km', 285, 'C', 305, '11 km', 385, 'D', 405, '20 km']]],
    [
      'down',
      [
        [120, 85, 'A. 1 km'],
        [136, 85, 'B. 5 km'],
        [152, 85, 'C. 11 km'],
        [168, 85, 'D. 20 km'],
      ],
    ],
    [
      'in a grid, read down',
      [
        [120, 85, 'A) 1 km', 300, 'C) 11 km'],
        [136, 85, 'B) 5 km', 300, 'D) 20 km'],
      ],
    ],
    [
      'behind boxes',
      [
        [120, 85, '□', 105, '1 km'],
        [136, 85, '□', 105, '5 km'],
        [152, 85, '□', 105, '11 km'],
        [168, 85, '□', 105, '20 km'],
      ],
    ],
  ] as [string, [number, ...(number | string)[]][]][])('options %s', (_, lines) => {
    expect(
      said(
        page([100, '1.', 85, 'At which height is the pressure half of that?'], ...lines, [
          220,
          '2.',
          85,
          'Work out 7 × 8.',
        ]),
      ),
    ).toEqual([
      ['1', null, '', 'ABCD'],
      ['2', null, '', ''],
    ])
  })
  it('small letters are parts after an order and options after a question', () => {
    const items = (y: number, texts: string[]): [number, ...(number | string)[]][] =>
      texts.map((t, i) => [y + 16 * i, 85, `${'abcd'[i]}) ${t}`])
    expect(
      said(
        page(
          [100, '1.', 85, 'Simplify:'],
          ...items(116, ['3x + 4x', '5y − 2y', '6z + z']),
          [200, '2.', 85, 'Which of these is a prime number?'],
          ...items(216, ['21', '23', '25', '27']),
        ),
      ),
    ).toEqual([
      ['1', null, 'a b c', ''],
      ['2', null, '', 'abcd'],
    ])
  })
  it('goes on over a page break, and leaves out running heads, cover rules, answers and their sheets', () => {
    const head: [number, string] = [30, 'Balloon Day 7']
    const paper = findQuestions([
      page(
        head,
        [80, '*Balloon Day'],
        [120, '1.', 85, 'Write your name on every sheet.'],
        [140, '2.', 85, 'Use black ink.'],
        [160, '3.', 85, 'Answer all questions.'],
      ),
      page(head, [100, '1.', 85, 'A rope is cut in two.'], [130, 85, '(a) How long is each?'], [800, 290, '2']),
      page(
        head,
        [100, 85, '(b) What is left over?'],
        [200, '2.', 85, 'Find the mean of 4 and 8.'],
        [240, '3.', 85, 'Solve the equation.'],
        [800, 290, '3'],
      ),
      page(head, [80, '*Answers'], [110, '1. 7 m'], [130, '2. 6'], [150, '3. x = 4']),
    ])
    expect(paper.questions.map(q => [q.label, q.places.map(p => p.page), q.parts.map(p => p.label).join('')])).toEqual([
      ['1', [1, 2], 'ab'],
      ['2', [2], ''],
      ['3', [2], ''],
    ])
    expect(paper.leftOut).toEqual(
      expect.arrayContaining([
        { page: 0, why: 'cover' },
        { page: 3, why: 'answers' },
      ]),
    )
  })
  it('shared instructions stand apart and give their marks to what is under them', () => {
    const paper = findQuestions([
      page(
        [80, '*Section A: each question is worth 2 marks'],
        [110, '1.', 85, 'Find the sum.'],
        [140, '2.', 85, 'Find the mean.'],
        [200, 'Use the table for questions 3 to 4.'],
        [230, '3.', 85, 'How many are there?'],
        [260, '4.', 85, 'How many are left?'],
      ),
    ])
    expect(paper.questions.map(q => q.marks)).toEqual([2, 2, 2, 2])
    expect(paper.instructions.map(i => i.text)).toEqual([
      'Section A: each question is worth 2 marks',
      'Use the table for questions 3 to 4.',
    ])
  })
  it('reads two columns down, and a grid of exercises across', () => {
    const left = Array.from({ length: 4 }, (_, i): [number, ...(number | string)[]] => [
      100 + 40 * i,
      40,
      `${i + 1}.`,
      60,
      'A rope of nine metres is cut in',
      320,
      `${i + 5}.`,
      340,
      'How high does the balloon rise',
    ])
    expect(
      said(
        page(
          ...left,
          ...left.map(([y]): [number, ...(number | string)[]] => [
            y + 15,
            60,
            'two pieces of equal length here',
            340,
            'in one hour of steady climbing',
          ]),
        ),
      ).map(q => q[0]),
    ).toEqual(['1', '2', '3', '4', '5', '6', '7', '8'])
    expect(
      said(
        page(
          ...[0, 1, 2].map((r): [number, ...(number | string)[]] => [
            100 + 60 * r,
            40,
            `${3 * r + 1}.`,
            60,
            '3 + 4',
            220,
            `${3 * r + 2}.`,
            240,
            '5 + 6',
            400,
            `${3 * r + 3}.`,
            420,
            '7 + 8',
          ]),
        ),
      ).map(q => q[0]),
    ).toEqual(['1', '2', '3', '4', '5', '6', '7', '8', '9'])
  })
  it('numbers in sentences, tables and decimals are no questions; nothing at all gives nothing', () => {
    expect(
      said(
        page(
          [100, '1.', 85, 'In the year'],
          [116, 85, '2019. It was 1.5 m high.'],
          [132, 85, '2', 130, '4', 175, '9'],
          [160, '2.', 85, 'How high was it?'],
        ),
      ).map(q => q[0]),
    ).toEqual(['1', '2'])
    expect(findQuestions([page(), page()])).toEqual({
      questions: [],
      instructions: [],
      leftOut: [
        { page: 0, why: 'empty' },
        { page: 1, why: 'empty' },
      ],
    })
  })
  it('a page of ten thousand pieces is read in good time', () => {
    const big: PageText = {
      width: 595,
      height: 842,
      outlines: [],
      pieces: Array.from({ length: 10_000 }, (_, i) => ({
        text: `${i % 90}.`,
        x: 40 + (i % 40) * 13,
        y: 40 + Math.floor(i / 40) * 3,
        w: 8,
        size: 8,
        bold: false,
      })),
    }
    expect(() => findQuestions([big])).not.toThrow()
  })
  it('the key of a paper is read off its own page', () => {
    expect(
      keyLines([
        page([100, '1.', 85, 'Find the sum of three and four.'], [140, '2.', 85, 'Find the mean of these numbers.']),
        page([80, '*Answers'], [110, '1. 7'], [130, '2. 6.5 m']),
      ]),
    ).toEqual(['1. 7', '2. 6.5 m'])
  })
  it('becomes proposals in a folio, with room to write down to the next question', () => {
    const folio: Folio = newFolio('Rates')
    const text = page(
      [100, '1.', 85, 'Find the sum. [2]'],
      [300, '2.', 85, 'Find the mean. [1]'],
      [316, 85, '(a) of these'],
      [332, 85, '(b) of those'],
    )
    folio.pages.push(Page.parse({ id: 'p1', kind: 'pdf', documentId: 'd1', index: 0, width: 595, height: 842 }))
    propose(folio, folio.pages, findQuestions([text]), [text])
    expect(folio.questions.map(q => [q.number, q.marks, q.proposal !== null, q.letters])).toEqual([
      ['1', 2, true, 11],
      ['2', 1, true, 11],
    ])
    const [a, b] = folio.questions.map(q => q.regions[0]!.box)
    expect(a!.y + a!.h).toBeGreaterThan(270)
    expect(a!.y + a!.h).toBeLessThanOrEqual(b!.y)
  })
})
