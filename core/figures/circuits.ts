import type { Spot } from '../folio/thing'
import type { FigureCircle, FigureLabel, FigureLayout, FigureLine } from './solids'

const line = (...c: number[]): FigureLine => ({
  points: Array.from({ length: c.length / 2 }, (_, i): Spot => ({ x: c[2 * i]!, y: c[2 * i + 1]! })),
})
const meter = (letter: string): Symbol => ({
  lines: [line(0, 0, 0.7, 0), line(1.3, 0, 2, 0)],
  circles: [{ at: { x: 1, y: 0 }, r: 0.3 }],
  labels: [{ text: `"${letter}"`, at: { x: 1, y: 0 }, align: [0, 0] }],
})
interface Symbol {
  lines: FigureLine[]
  circles?: FigureCircle[]
  labels?: FigureLabel[]
}

/** Common symbols of circuits, two units long between their ends, after IEC 60617 (shapes from memory). */
export const CIRCUIT: Record<string, Symbol> = {
  'wire': { lines: [line(0, 0, 2, 0)] },
  'cell': { lines: [line(0, 0, 0.9, 0), line(1.1, 0, 2, 0), line(0.9, -0.4, 0.9, 0.4), line(1.1, -0.2, 1.1, 0.2)] },
  'battery': {
    lines: [
      line(0, 0, 0.6, 0),
      line(0.6, -0.4, 0.6, 0.4),
      line(0.8, -0.2, 0.8, 0.2),
      { ...line(0.8, 0, 1.2, 0), dashed: true },
      line(1.2, -0.4, 1.2, 0.4),
      line(1.4, -0.2, 1.4, 0.2),
      line(1.4, 0, 2, 0),
    ],
  },
  'resistor': {
    lines: [
      line(0, 0, 0.5, 0),
      { ...line(0.5, -0.18, 1.5, -0.18, 1.5, 0.18, 0.5, 0.18), closed: true },
      line(1.5, 0, 2, 0),
    ],
  },
  'variable resistor': {
    lines: [
      line(0, 0, 0.5, 0),
      { ...line(0.5, -0.18, 1.5, -0.18, 1.5, 0.18, 0.5, 0.18), closed: true },
      line(1.5, 0, 2, 0),
      { ...line(0.55, 0.45, 1.45, -0.45), arrow: true },
    ],
  },
  'lamp': {
    lines: [line(0, 0, 0.7, 0), line(1.3, 0, 2, 0), line(0.79, -0.21, 1.21, 0.21), line(0.79, 0.21, 1.21, -0.21)],
    circles: [{ at: { x: 1, y: 0 }, r: 0.3 }],
  },
  'open switch': {
    lines: [line(0, 0, 0.65, 0), line(1.35, 0, 2, 0), line(0.65, 0, 1.28, -0.36)],
    circles: [
      { at: { x: 0.65, y: 0 }, r: 0.05, dot: true },
      { at: { x: 1.35, y: 0 }, r: 0.05, dot: true },
    ],
  },
  'closed switch': {
    lines: [line(0, 0, 2, 0)],
    circles: [
      { at: { x: 0.65, y: 0 }, r: 0.05, dot: true },
      { at: { x: 1.35, y: 0 }, r: 0.05, dot: true },
    ],
  },
  'ammeter': meter('A'),
  'voltmeter': meter('V'),
  'motor': meter('M'),
  'diode': {
    lines: [line(0, 0, 2, 0), { ...line(0.8, -0.25, 0.8, 0.25, 1.2, 0), closed: true }, line(1.2, -0.25, 1.2, 0.25)],
  },
  'capacitor': {
    lines: [line(0, 0, 0.92, 0), line(1.08, 0, 2, 0), line(0.92, -0.35, 0.92, 0.35), line(1.08, -0.35, 1.08, 0.35)],
  },
  'fuse': { lines: [line(0, 0, 2, 0), { ...line(0.5, -0.18, 1.5, -0.18, 1.5, 0.18, 0.5, 0.18), closed: true }] },
}

/** A symbol of a circuit, two units long between its ends, with its value below. @param symbol a key of CIRCUIT */
export function circuitSymbol(symbol: string, label: string): FigureLayout {
  const { lines, circles = [], labels = [] } = CIRCUIT[symbol]!
  return {
    lines,
    circles,
    labels: [...labels, ...(label ? [{ text: label, at: { x: 1, y: 0.45 }, align: [0, -1] as const }] : [])],
  }
}
