import type { Box } from '../folio/basics'
import { layText } from '../ink/hand'
import { LETTERS } from '../ink/letters'
import { boxPath, polyline, type Mark } from '../ink/mark'
import type { Drawing } from './scene'

const GRAPHITE = '#26241f'
const INK = '#1d3f8f'

/** "1 min 30 s", "45 s" */
function inWords(seconds: number): string {
  const minutes = Math.floor(seconds / 60),
    rest = seconds % 60
  return [minutes ? `${minutes} min` : '', rest ? `${rest} s` : ''].filter(Boolean).join(' ')
}

/**
 * The card at the foot of the picture while the student is to try. The problem stays in sight above it.
 * @param view what the picture shows, points; @param seconds the suggested time; @param left seconds until the solution
 * goes on by itself
 */
export function turnCard(view: Box, seconds: number, left: number): Drawing {
  const w = view.w * 0.52,
    h = view.h * 0.15
  const x = view.x + (view.w - w) / 2,
    y = view.y + view.h - h - view.h * 0.03
  const line = Math.max(1, view.h / 260)
  const words = (text: string, size: number, at: number, stroke: string): Mark[] =>
    layText(LETTERS, text, { x: x + h * 0.28, y: y + at }, size).paths.map(path => ({
      d: polyline(Array.from({ length: path.length / 2 }, (_, i) => ({ x: path[2 * i]!, y: path[2 * i + 1]! }))),
      stroke,
      width: line * (size > h * 0.2 ? 1.5 : 1),
    }))
  const goesOn = Math.ceil(left)
  const marks: Mark[] = [
    { d: boxPath({ x, y, w, h }), fill: '#fbf9f3', stroke: GRAPHITE, width: line },
    { d: boxPath({ x, y, w: h * 0.09, h }), fill: INK },
    ...words('Your turn', h * 0.3, h * 0.45, INK),
    ...words(`Pause and try it: ${inWords(seconds)}. Goes on in ${goesOn} s`, h * 0.14, h * 0.78, GRAPHITE),
  ]
  return { kind: 'marks', key: `turn:${seconds}:${goesOn}`, marks, outlines: [], done: false }
}
