import type { Box, Paper, Patch } from '#core/folio'

const MM = 72 / 25.4
const COLOURS = {
  light: { ground: '#fffefb', rule: '#cfe0ef', dot: '#9db6cc' },
  dark: { ground: '#23262b', rule: '#3a4653', dot: '#5d6d7d' },
}

/** Paints blank paper: squares of 5 mm, lines 8 mm apart, dots every 5 mm, or nothing. @param box the page, points */
export function paintBlank(
  context: CanvasRenderingContext2D,
  { paper, dark }: { paper: Paper; dark: boolean },
  box: Box,
): void {
  const { ground, rule, dot } = COLOURS[dark ? 'dark' : 'light']
  context.fillStyle = ground
  context.fillRect(box.x, box.y, box.w, box.h)
  if (paper === 'plain') return
  context.strokeStyle = rule
  context.lineWidth = 0.5
  const every = (paper === 'lined' ? 8 : 5) * MM
  context.beginPath()
  if (paper === 'dotted') {
    context.fillStyle = dot
    for (let y = every; y < box.h; y += every)
      for (let x = every; x < box.w; x += every) context.fillRect(box.x + x - 0.5, box.y + y - 0.5, 1, 1)
    return
  }
  for (let y = every; y < box.h; y += every) {
    context.moveTo(box.x, box.y + y)
    context.lineTo(box.x + box.w, box.y + y)
  }
  if (paper === 'squared')
    for (let x = every; x < box.w; x += every) {
      context.moveTo(box.x + x, box.y)
      context.lineTo(box.x + x, box.y + box.h)
    }
  context.stroke()
}

/** Covers a piece of a page and sets its new words, broken into lines where the box is too narrow. */
export function paintPatch(context: CanvasRenderingContext2D, patch: Patch): void {
  const { box, size } = patch
  context.fillStyle = '#ffffff'
  context.fillRect(box.x, box.y, box.w, box.h)
  context.fillStyle = '#22242e'
  context.font = `${size}px ${patch.serif ? '"STIX Two Text", serif' : '"Atkinson Hyperlegible", sans-serif'}`
  context.textBaseline = 'alphabetic'
  const lines = wrap(context, patch.text, box.w)
  const step = size * 1.22
  const first = box.y + (box.h - step * (lines.length - 1)) / 2 + size * 0.34
  lines.forEach((line, i) => context.fillText(line, box.x + 1, first + i * step))
}

/** Breaks words into lines no wider than `width`; line breaks that were typed stay. */
export function wrap(context: CanvasRenderingContext2D, text: string, width: number): string[] {
  return text.split('\n').flatMap(paragraph => {
    const lines: string[] = []
    let line = ''
    for (const word of paragraph.split(' ')) {
      const longer = line ? `${line} ${word}` : word
      if (line && context.measureText(longer).width > width) {
        lines.push(line)
        line = word
      } else line = longer
    }
    return [...lines, line]
  })
}
