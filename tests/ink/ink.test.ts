import { describe, expect, it } from 'vitest'
import { XMLParser } from 'fast-xml-parser'
import {
  splitStroke,
  handFont,
  layText,
  outlineStroke,
  PEN_ROLES,
  quantise,
  readInkml,
  ROLE_STYLES,
  seededRandom,
  thinned,
  touches,
  writeByHand,
  writeInkml,
  type Stroke,
} from '../../core/ink'
import fonts from 'hersheytext/hersheytext.min.json'
import { line, stroke } from '../support/make'

const font = handFont((fonts as unknown as Record<string, { chars: { d: string; o: number }[] }>).futural!.chars)

/** Strokes as a hand makes them, of every role and tool. */
function handStrokes(n: number): Stroke[] {
  const random = seededRandom(n)
  const tools = ['pen', 'touch', 'mouse'] as const
  return Array.from({ length: n }, (_, i) => {
    const points: number[] = []
    for (let k = 0, t = i * 400; k < 1 + random() * 60; k++, t += 8)
      points.push(...quantise(random() * 600, random() * 850, random(), t))
    return { id: `s_${i}-x`, role: PEN_ROLES[i % 5]!, tool: tools[i % 3]!, points }
  })
}

describe('InkML (W3C Recommendation, 2011)', () => {
  it('a round trip loses nothing: role, tool, pressure and time of every sample', () => {
    const strokes = handStrokes(60)
    expect(readInkml(writeInkml(strokes), 'x')).toEqual(strokes)
    expect(readInkml(writeInkml([]), 'x')).toEqual([])
  })
  it('declares what the Recommendation asks for: a trace format with its channels, contexts and brushes', () => {
    const ink = new XMLParser({ ignoreAttributes: false, attributeNamePrefix: '' }).parse(
      writeInkml(handStrokes(5)),
    ).ink
    expect(ink.xmlns).toBe('http://www.w3.org/2003/InkML')
    expect(ink.definitions.traceFormat.channel.map((c: { name: string }) => c.name)).toEqual(['X', 'Y', 'F', 'T'])
    expect(ink.definitions.brush.map((b: Record<string, string>) => b['xml:id'])).toEqual([...PEN_ROLES])
    expect(ink.trace).toHaveLength(5)
    const samples = ink.trace[0]['#text'].split(',').map((s: string) => s.trim().split(' '))
    for (const s of samples) expect(s).toHaveLength(4)
  })
  it('reads channels in another order', () => {
    const xml = writeInkml([stroke('a', [1, 2, 0.5, 7])])
    const swapped = xml
      .replace(/<channel name="X"[^>]*>/, '@')
      .replace(/<channel name="T"[^>]*>/, '<channel name="X" type="decimal"/>')
      .replace('@', '<channel name="T" type="integer"/>')
      .replace('1 2 0.5 7', '7 2 0.5 1')
    expect(readInkml(swapped, 'x')[0]!.points).toEqual([1, 2, 0.5, 7])
  })
  it.each([
    ['no XML', 'hello <'],
    ['another document', '<svg/>'],
    ['no channels', '<ink><definitions/></ink>'],
    ['a sample that is no number', writeInkml([stroke('a', [1, 2, 0.5, 7])]).replace('0.5', 'much')],
    [
      'a trace without a context',
      writeInkml([stroke('a', [1, 2, 0.5, 7])]).replace('contextRef="#working-pen"', 'contextRef="#other"'),
    ],
    ['an entity bomb', '<!DOCTYPE ink [<!ENTITY a "aaaa">]><ink>&a;</ink>'],
  ])('names the file when there is %s', (_, xml) => {
    expect(() => readInkml(xml, 'odd.inkml')).toThrowError(
      expect.objectContaining({ code: 'ink-unreadable', message: expect.stringContaining('odd.inkml') }),
    )
  })
})

describe('outlines', () => {
  it('follow the pressure of a pen: pressed harder, the line is wider', () => {
    const width = (pressure: number) => {
      const points = Array.from({ length: 40 }, (_, i) => [i * 3, 0, pressure, i * 8]).flat()
      const ys = outlineStroke(stroke('a', points))[0]!.rings[0]!.filter((_, i) => i % 2 === 1)
      return Math.max(...ys) - Math.min(...ys)
    }
    expect(width(0.9)).toBeGreaterThan(width(0.2) * 1.5)
  })
  it('of the five roles differ in line style, not only in colour', () => {
    expect(new Set(PEN_ROLES.map(r => ROLE_STYLES[r].line)).size).toBe(5)
    expect(new Set(PEN_ROLES.map(r => ROLE_STYLES[r].colour)).size).toBe(5)
    const long = Array.from({ length: 60 }, (_, i) => [i * 2, 0, 0.5, i * 8]).flat()
    expect(outlineStroke(stroke('a', long, 'aside'))[0]!.rings.length).toBeGreaterThan(12)
    expect(outlineStroke(stroke('a', long, 'answer'))).toHaveLength(2)
    expect(outlineStroke(stroke('a', long, 'given'))[0]!.alpha).toBeLessThan(1)
  })
  it('of a dot and of nothing are harmless', () => {
    expect(outlineStroke(stroke('a', []))).toEqual([])
    for (const role of PEN_ROLES)
      for (const o of outlineStroke(stroke('a', [5, 5, 0.5, 0], role)))
        expect(o.rings.flat().every(Number.isFinite)).toBe(true)
  })
  it('colours of the roles stand out from white paper (WCAG 2.2, 1.4.3: 4.5:1, as letters are written in them; the band marks text and may be paler)', () => {
    const luminance = (hex: string) =>
      [1, 3, 5]
        .map(i => Number.parseInt(hex.slice(i, i + 2), 16) / 255)
        .map(v => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4))
        .reduce((s, v, i) => s + v * [0.2126, 0.7152, 0.0722][i]!, 0)
    for (const role of PEN_ROLES.filter(r => ROLE_STYLES[r].line !== 'band'))
      expect(1.05 / (luminance(ROLE_STYLES[role].colour) + 0.05)).toBeGreaterThan(4.5)
  })
})

describe('the eraser', () => {
  const s = { ...line('a', 0, { x: 0, y: 10, length: 100 }) }
  it.each([
    ['crosses it', { x: 50, y: 0 }, { x: 50, y: 20 }, true],
    ['rests on it', { x: 50, y: 12 }, { x: 50, y: 12 }, true],
    ['passes beside it', { x: 50, y: 30 }, { x: 90, y: 30 }, false],
    ['passes before it', { x: -30, y: 0 }, { x: -30, y: 20 }, false],
    ['leaps over it between two samples', { x: 50, y: -500 }, { x: 50, y: 500 }, true],
  ])('%s', (_, a, b, hit) => expect(touches(s, a, b, 3)).toBe(hit))
  it('takes a dot', () => expect(touches(stroke('d', [5, 5, 0.5, 0]), { x: 6, y: 5 }, { x: 6, y: 5 }, 2)).toBe(true))
})

describe('the simulated hand', () => {
  it('lays text out left to right on its baseline, powers raised', () => {
    const { paths, endX } = layText(font, '3x^2=12', { x: 100, y: 200 }, 12)
    const xs = paths.flatMap(p => p.filter((_, i) => i % 2 === 0))
    const ys = paths.flatMap(p => p.filter((_, i) => i % 2 === 1))
    expect(Math.min(...xs)).toBeGreaterThanOrEqual(100)
    expect(endX).toBeGreaterThan(Math.max(...xs))
    expect(Math.max(...ys)).toBeLessThanOrEqual(205)
    const raised = layText(font, 'x²', { x: 0, y: 200 }, 12).paths
    expect(Math.max(...raised.at(-1)!.filter((_, i) => i % 2 === 1))).toBeLessThan(197)
  })
  it('knows the signs of school mathematics', () => {
    for (const sign of '+-=×÷−·√°π≈≤≥→✓Δ0123456789xyz')
      expect(layText(font, sign, { x: 0, y: 0 }, 10).paths.length, sign).toBeGreaterThan(0)
  })
  it('writes in time: samples in order, at human speed, pressure within bounds, the same for the same seed', () => {
    const write = () => {
      let n = 0
      return writeByHand(
        layText(font, '4x − 18 = 30', { x: 0, y: 50 }, 11).paths,
        { role: 'working', t0: 1000, random: seededRandom(2) },
        () => `n${n++}`,
      )
    }
    const { strokes, end } = write()
    const times = strokes.flatMap(s => s.points.filter((_, i) => i % 4 === 3))
    expect(times[0]).toBe(1000)
    expect(times.every((t, i) => i === 0 || t >= times[i - 1]!)).toBe(true)
    expect(end).toBe(Math.max(end, times.at(-1)!))
    expect(end - 1000).toBeGreaterThan(2000)
    expect(end - 1000).toBeLessThan(8000)
    expect(strokes.flatMap(s => s.points.filter((_, i) => i % 4 === 2)).every(p => p >= 0 && p <= 1)).toBe(true)
    expect(write()).toEqual({ strokes, end })
  })
})

describe('a growing stroke', () => {
  it('is drawn from few samples however long it gets; its newest and its shape stay', () => {
    const spiral = (n: number) =>
      Array.from({ length: n }, (_, i) => [
        200 + (Math.cos(i / 400) * i) / 800,
        150 + (Math.sin(i / 400) * i) / 800,
        0.5,
        i,
      ]).flat()
    const short = spiral(4000)
    expect(thinned(short)).toBe(short)
    const long = spiral(100_000)
    const few = thinned(long)
    expect(few.length / 4).toBeLessThanOrEqual(4000)
    expect(few.slice(-2000)).toEqual(long.slice(-2000))
    // No sample that was left out lies farther than a step of the spiral from one that stayed.
    for (let i = 0; i < 100_000; i += 997) {
      let nearest = Infinity
      for (let k = 0; k < few.length; k += 4)
        nearest = Math.min(nearest, Math.hypot(few[k]! - long[i * 4]!, few[k + 1]! - long[i * 4 + 1]!))
      expect(nearest).toBeLessThan(8)
    }
  })
  it('that stands still is thinned, too', () => {
    expect(thinned(Array.from({ length: 50_000 }, (_, i) => [10, 10, 0.5, i]).flat()).length / 4).toBe(501)
  })
})

describe('the piece eraser', () => {
  it('reaches as far as the stroke is wide, also one written with a thick pen', () => {
    const thin = stroke('a', [0, 0, 0.5, 0, 10, 0, 0.5, 10, 20, 0, 0.5, 20, 30, 0, 0.5, 30, 40, 0, 0.5, 40])
    const above = { x: 20, y: 9 }
    expect(splitStroke(thin, above, above, 1)).toBeNull()
    expect(splitStroke({ ...thin, size: 8 }, above, above, 1)).not.toBeNull()
  })
})
