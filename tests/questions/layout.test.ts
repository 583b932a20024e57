import { describe, expect, it } from 'vitest'
import { withTicks, TICK } from '../../core/questions/answerBoxes'
import { linesOf, readingsOf } from '../../core/questions/columns'
import { bodyWords } from '../../core/questions/running'
import { isBoldName, outlinesOf, piecesOf } from '../../core/questions/source'
import type { PageText, TextPiece } from '../../core/questions/model'

const piece = (text: string, x: number, y: number): TextPiece => ({
  text,
  x,
  y,
  w: text.length * 5,
  size: 11,
  bold: false,
})
const page = (...pieces: TextPiece[]): PageText => ({ width: 595, height: 842, pieces, outlines: [] })

describe('what runs along the pages', () => {
  const body = (n: number) => [piece('Find the sum of these.', 60, 200), piece(`${n} ropes are cut.`, 60, 230)]
  const texts = (pages: PageText[]) => bodyWords(pages).map(words => words.map(w => w.text).join(' '))
  it('repeated titles, page numbers and rights are gone, the text stays', () => {
    expect(
      texts(
        [1, 2, 3].map(n =>
          page(
            piece('Balloon Day, year 8', 60, 30),
            ...body(n),
            piece(`Page ${n} of 3`, 270, 815),
            piece('© Science club', 60, 828),
          ),
        ),
      ),
    ).toEqual([1, 2, 3].map(n => `Find the sum of these. ${n} ropes are cut.`))
  })
  it('questions at the same height on every page are no running head', () => {
    expect(texts([1, 2].map(n => page(piece(`${n}. Find the sum`, 60, 60), ...body(n))))).toEqual([
      '1. Find the sum Find the sum of these. 1 ropes are cut.',
      '2. Find the sum Find the sum of these. 2 ropes are cut.',
    ])
  })
  it("a bare number close over text is a question's", () =>
    expect(texts([page(piece('11', 60, 60), piece('Work it out.', 60, 76), ...body(1))])[0]).toContain('11'))
  it('dotted lines set dot by dot are gone', () =>
    expect(
      texts([page(...body(1), ...Array.from({ length: 40 }, (_, i) => piece('.', 60 + 8 * i, 300)))])[0],
    ).not.toContain('. .'))
})

describe('columns', () => {
  const column = (x: number, n: number, width = 40) =>
    Array.from({ length: n }, (_, i) => piece('x'.repeat(width), x, 100 + 16 * i))
  it('two columns of text can be read down', () => {
    const words = [...column(40, 12), ...column(320, 12)]
    const readings = readingsOf(words, 595, 842)
    expect(readings).toHaveLength(2)
    expect(
      linesOf(words, readings[1]!, 0)
        .map(l => l.x)
        .slice(10, 14),
    ).toEqual([40, 40, 320, 320])
  })
  it('one column with marks at its edge, and short lines, have one reading', () => {
    expect(
      readingsOf(
        [...column(40, 12, 70), ...Array.from({ length: 12 }, (_, i) => piece('[3]', 520, 100 + 16 * i))],
        595,
        842,
      ),
    ).toHaveLength(1)
  })
  it('a heading across parts the page into bands', () => {
    const words = [
      ...column(40, 10),
      ...column(320, 10),
      piece('y'.repeat(90), 60, 300),
      ...column(40, 10).map(p => ({ ...p, y: p.y + 230 })),
      ...column(320, 10).map(p => ({ ...p, y: p.y + 230 })),
    ]
    const lines = linesOf(words, readingsOf(words, 595, 842)[1]!, 0)
    expect(lines.map(l => l.text[0]).join('')).toBe(`${'x'.repeat(20)}y${'x'.repeat(20)}`)
  })
})

describe('answer boxes', () => {
  it('an outline before words is a box sign, one round a letter makes it a label', () => {
    const text = {
      ...page(piece('5 km', 120, 100), piece('A', 123, 140), piece('7 km', 140, 140)),
      outlines: [
        { x: 100, y: 90, w: 12, h: 12 },
        { x: 119, y: 129, w: 13, h: 13 },
      ],
    }
    expect(withTicks(text).pieces.map(p => p.text)).toEqual(expect.arrayContaining([TICK, '(A)']))
  })
  it('squares of squared paper are none', () => {
    const outlines = Array.from({ length: 20 }, (_, i) => ({ x: 60 + 14 * i, y: 90, w: 14, h: 14 }))
    expect(withTicks({ ...page(piece('5 km', 350, 100)), outlines }).pieces).toHaveLength(1)
  })
})

describe('text of a PDF page', () => {
  const upright = [1, 0, 0, -1, 0, 842]
  it('is measured from the top left; what is turned, empty or tiny is left out', () => {
    const item = (str: string, transform: number[]) => ({ str, transform, width: 40, height: 11, fontName: 'f' })
    expect(
      piecesOf(
        [
          item('Find', [11, 0, 0, 11, 60, 742]),
          item('aside', [0, 11, -11, 0, 20, 400]),
          item('', [11, 0, 0, 11, 0, 0]),
          item('dot', [0.5, 0, 0, 0.5, 0, 0]),
        ],
        upright,
        () => true,
      ),
    ).toEqual([{ text: 'Find', x: 60, y: 100, w: 40, size: 11, bold: true }])
  })
  it.each([
    ['Times-Bold', true],
    ['ABCDEF+CMBX12', true],
    ['Arial,Bold', true],
    ['Helvetica', false],
    ['Boldini-Regular'.replace('Bold', 'Fold'), false],
  ])('%s is heavy: %s', (name, bold) => expect(isBoldName(name)).toBe(bold))
  it("outlines follow the drawing's transforms and are only small closed ones", () => {
    const ops = { save: 1, restore: 2, transform: 3, constructPath: 4 }
    const found = outlinesOf(
      [1, 3, 4, 2, 4, 4],
      [[], [2, 0, 0, 2, 100, 700], [0, 0, [0, 0, 5, 5]], [], [0, 0, [0, 0, 5, 5]], [0, 0, [0, 0, 300, 5]]],
      ops,
      upright,
    )
    expect(found).toEqual([
      { x: 100, y: 132, w: 10, h: 10 },
      { x: 0, y: 837, w: 5, h: 5 },
    ])
  })
})
