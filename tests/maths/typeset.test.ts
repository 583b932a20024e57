import { mathjax } from '@mathjax/src/mjs/mathjax.js'
import { liteAdaptor } from '@mathjax/src/mjs/adaptors/liteAdaptor.js'
import { TeX } from '@mathjax/src/mjs/input/tex.js'
import { SVG } from '@mathjax/src/mjs/output/svg.js'
import { XMLValidator } from 'fast-xml-parser'
import { describe, expect, it } from 'vitest'
import { linesByHand, plainToAsciiMath, colourPieces, writeLine, type RoleColours } from '../../core/maths'
import { typeset } from '../../core/maths/typeset'
import { pathBox, seededRandom } from '../../core/ink'

const chars = async (source: string, notation: 'maths' | 'latex' | 'words' = 'maths') =>
  (await typeset(source, notation)).marks.map(m => (m.char ?? '').normalize('NFKD')).join('')

describe('plain maths', () => {
  it.each([
    ['3x-4=17', '3x−4=17'],
    ['sqrt(180)=6sqrt5', '√180―=6√5―'],
    ['6.4e20 * (1/2)^4', '6.4×1020×(12―)4'],
    ['x_1 <= 5', 'x1⩽5'],
    ['alpha + 90°', 'α+90°'],
  ])('%s is typeset as %s', async (typed, signs) => {
    expect(await chars(typed)).toBe(signs)
  })
  it('notation is brought to AsciiMath', () => {
    expect(plainToAsciiMath('6.4e-20*2')).toBe('6.4 xx 10^(-20) xx 2')
    expect(plainToAsciiMath('h "a*b"')).toBe('h "a*b"')
    expect(plainToAsciiMath('x = 11 "m" or 7 "°C"')).toBe('x = 11 \\ "m" or 7 "°C"')
  })
  it('a piece takes another pen’s colour, also inside brackets, and to the end where the bracket is open', async () => {
    const colours = {
      working: '#000001',
      given: '#000002',
      carry: '#000003',
      answer: '#000004',
      aside: '#000005',
    } as RoleColours
    expect(colourPieces('a@4(x=(7))b', 'maths', colours)).toBe('acolor(#000004)(x=(7))b')
    expect(colourPieces('@2(x', 'latex', colours)).toBe('{\\color{#000002}x}')
    const { marks } = await typeset('y = @4(x+1)', 'maths')
    expect(marks.map(m => m.colour)).toEqual([undefined, undefined, '#c8331b', '#c8331b', '#c8331b'])
  })
  it('tells where the first sign of relation is, so that lines can be lined up', async () => {
    const a = await typeset('3x=21', 'maths'),
      b = await typeset('x=7', 'maths')
    expect(a.equals! - b.equals!).toBeCloseTo(500, -1)
    expect((await typeset('x+7', 'maths')).equals).toBeNull()
  })
})

describe('typesetting', () => {
  it.each([
    '\\frac{a}{b}+\\sqrt{x^2+1}',
    '\\left(\\frac{1}{2}\\right)^4',
    '\\overline{AB}\\parallel\\overline{CD}',
    'x\\le\\tfrac{3}{4}',
    '\\cancel{x}',
  ])('%s has the size, the signs and their places of the library’s own picture (MathJax)', async latex => {
    const doc = mathjax.document('', {
      InputJax: new TeX({ packages: ['base', 'ams', 'color', 'cancel'] }),
      OutputJax: new SVG({ fontCache: 'none', linebreaks: { inline: false } }),
    })
    const node = await mathjax.handleRetriesFor(
      () => doc.convert(latex, { display: false, em: 1000, ex: 442, containerWidth: 1e7 }) as unknown,
    )
    const svg = liteAdaptor().outerHTML(node as never)
    const [, top, width, height] = /viewBox="([^"]*)"/.exec(svg)![1]!.split(' ').map(Number) as [
      number,
      number,
      number,
      number,
    ]
    const mine = await typeset(latex, 'latex')
    expect(mine.width).toBeCloseTo(width, 0)
    expect([mine.height, mine.depth].map(Math.round)).toEqual([-top, height + top].map(Math.round))
    expect(mine.marks.filter(m => m.char !== '―').length).toBe((svg.match(/<path data-c="(?!2015)/g) ?? []).length)
    for (const m of mine.marks) {
      const box = pathBox(m.d)!
      expect(box.x).toBeGreaterThan(-120)
      expect(box.x + box.w).toBeLessThan(width + 120)
      expect(box.y).toBeGreaterThan(top - 60)
      expect(box.y + box.h).toBeLessThan(height + top + 60)
    }
  })
  it('MathML goes along for screen readers, and words keep their spaces', async () => {
    const line = await typeset('so `x = 7` metres', 'words')
    expect(XMLValidator.validate(line.mathml)).toBe(true)
    expect(line.mathml).toContain('so\u00a0')
    expect(line.mathml).toContain('<mn>7</mn>')
    expect((await typeset('<b>&"', 'words')).mathml).toContain('&lt;b&gt;&amp;')
  })
  it.each([
    ['\\foo', 'Undefined control sequence'],
    ['\\frac{1}{', 'Missing close brace'],
    ['x^2^3', 'Double exponent'],
  ])('%s is answered plainly', async (latex, why) => {
    await expect(typeset(latex, 'latex')).rejects.toMatchObject({
      code: 'line-unclear',
      message: expect.stringContaining(why) as string,
    })
  })
  it.each(['(a+b', 'sqrt(', '1/', '^', '}}{{', '@4('])('%s, half typed, does no harm as plain maths', async typed => {
    await typeset(typed, 'maths').catch((error: unknown) => expect(error).toMatchObject({ code: 'line-unclear' }))
  })
  it('a number of 200 digits is one line, and a line that nobody writes is refused', async () => {
    expect((await typeset('7'.repeat(200), 'maths')).marks).toHaveLength(200)
    await expect(typeset('7'.repeat(1600), 'maths')).rejects.toMatchObject({ code: 'line-long' })
  })
})

describe('a line as if by hand', () => {
  it('writes each sign where typesetting puts it, from left to right in time', async () => {
    const set = await typeset('3x-4=17', 'maths')
    const paths = linesByHand(set, { x: 0, y: 0 }, 1000)
    for (const path of paths) {
      const x = path.filter((_, i) => i % 2 === 0)
      expect(Math.min(...x)).toBeGreaterThan(-60)
      expect(Math.max(...x)).toBeLessThan(set.width + 60)
    }
    const { strokes, end } = writeLine(set, { x: 0, y: 0 }, 14, 'working', seededRandom(3), () => 'id')
    expect(strokes.length).toBeGreaterThanOrEqual(7)
    expect(end).toBeGreaterThan(1000)
    expect(end).toBeLessThan(9000)
  })
  it('a fraction’s bar and a crossed out term are single strokes', async () => {
    const set = await typeset('\\frac{1}{\\cancel{2}}', 'latex')
    expect(linesByHand(set, { x: 0, y: 0 }, 1000).filter(p => p.length === 4).length).toBeGreaterThanOrEqual(2)
  })
})
