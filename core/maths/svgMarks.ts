import type { SetMark, Typeset } from '../folio/thing'
import { applyTo, type Matrix } from '../ink/alter'
import { pathSteps } from '../ink/mark'

/** A node of a picture's tree. */
interface Node {
  kind: string
  attributes?: Record<string, string>
  children?: Node[]
}

const SAME: Matrix = [1, 0, 0, 1, 0, 0]
const RELATIONS = /[=<>≤≥≠≈≡∝→⟶⇌⇒⇔]/u

/**
 * Reads the picture of one typeset line (SVG, y up inside a flipped group, thousandths of the letter size) into plain
 * paths with y down.
 * @throws Error when there is no picture in it: a fault of ours, not of what was typed
 */
export function readSvg(root: Node): Omit<Typeset, 'mathml' | 'aside'> {
  const svg = find(root, 'svg')
  if (!svg) throw new Error('no picture was made')
  const [, top, width, height] = (svg.attributes?.viewBox ?? '0 0 0 0').split(/\s+/).map(Number) as [
    number,
    number,
    number,
    number,
  ]
  const marks: (SetMark & { x: number })[] = []
  walk(svg, SAME, undefined, null, marks)
  const equals = marks.find(m => m.char && RELATIONS.test(m.char))
  const round = (v: number) => Math.round(v * 10) / 10
  return {
    width: round(width),
    height: round(-top),
    depth: round(height + top),
    equals: equals ? equals.x : null,
    marks: marks.map(({ d, colour, char }) => ({ d, ...(colour ? { colour } : {}), ...(char ? { char } : {}) })),
  }
}

function find(node: Node, kind: string): Node | undefined {
  if (node.kind === kind) return node
  for (const child of node.children ?? []) {
    const hit = find(child, kind)
    if (hit) return hit
  }
  return undefined
}

/** What a stretched sign is cut to, in the line's own units. */
type Clip = { x0: number; y0: number; x1: number; y1: number } | null

function walk(node: Node, m: Matrix, colour: string | undefined, clip: Clip, out: (SetMark & { x: number })[]) {
  const a = node.attributes ?? {}
  const here = a.transform ? times(m, readTransform(a.transform)) : m
  const own = /^#[0-9a-f]{6}$/i.test(a.fill ?? '') ? a.fill!.toLowerCase() : colour
  const add = (d: string, char?: string) => {
    const moved = movePath(d, here, clip)
    if (moved) out.push({ d: moved.d, x: moved.x, ...(own ? { colour: own } : {}), ...(char ? { char } : {}) })
  }
  if (node.kind === 'path' && a.d)
    add(a.d, a['data-c'] ? String.fromCodePoint(Number.parseInt(a['data-c'], 16)) : undefined)
  if (node.kind === 'rect' && a['data-background'] === undefined) {
    const [x, y, w, h] = ['x', 'y', 'width', 'height'].map(k => Number(a[k] ?? 0)) as [number, number, number, number]
    if (w > 0 && h > 0) add(`M${x} ${y}L${x + w} ${y}L${x + w} ${y + h}L${x} ${y + h}Z`, '―')
  }
  if (node.kind === 'line') {
    // A stroked line (a cancelled term) becomes a thin area, as everything else is filled.
    const [x1, y1, x2, y2] = ['x1', 'y1', 'x2', 'y2'].map(k => Number(a[k] ?? 0)) as [number, number, number, number]
    const len = Math.hypot(x2 - x1, y2 - y1) || 1,
      u = (-(y2 - y1) / len) * 30,
      v = ((x2 - x1) / len) * 30
    add(`M${x1 + u} ${y1 + v}L${x2 + u} ${y2 + v}L${x2 - u} ${y2 - v}L${x1 - u} ${y1 - v}Z`, '―')
  }
  // An inner picture (a stretched sign) has its own origin and scale.
  const isInner = node.kind === 'svg' && a.viewBox !== undefined && a.x !== undefined
  const nested = isInner ? times(here, nestedView(a)) : here
  const cut = isInner ? viewport(a, nested) : clip
  for (const child of node.children ?? []) walk(child, nested, own, cut, out)
}

/** The rectangle that an inner picture shows. */
function viewport(a: Record<string, string>, m: Matrix): Clip {
  const [vx, vy, vw, vh] = a.viewBox!.split(/\s+/).map(Number) as [number, number, number, number]
  const p = applyTo(m, { x: vx, y: vy }),
    q = applyTo(m, { x: vx + vw, y: vy + vh })
  return { x0: Math.min(p.x, q.x), y0: Math.min(p.y, q.y), x1: Math.max(p.x, q.x), y1: Math.max(p.y, q.y) }
}

function nestedView(a: Record<string, string>): Matrix {
  const [vx, vy, vw, vh] = a.viewBox!.split(/\s+/).map(Number) as [number, number, number, number]
  const w = Number(a.width ?? vw),
    h = Number(a.height ?? vh)
  const sx = w / vw || 1,
    sy = h / vh || 1
  return [sx, 0, 0, sy, Number(a.x ?? 0) - vx * sx, Number(a.y ?? 0) - vy * sy]
}

function times(m: Matrix, n: Matrix): Matrix {
  return [
    m[0] * n[0] + m[2] * n[1],
    m[1] * n[0] + m[3] * n[1],
    m[0] * n[2] + m[2] * n[3],
    m[1] * n[2] + m[3] * n[3],
    m[0] * n[4] + m[2] * n[5] + m[4],
    m[1] * n[4] + m[3] * n[5] + m[5],
  ]
}

function readTransform(text: string): Matrix {
  let out: Matrix = SAME
  for (const [, name, args] of text.matchAll(/(\w+)\(([^)]*)\)/g)) {
    const v = args!
      .split(/[\s,]+/)
      .filter(Boolean)
      .map(Number)
    if (name === 'translate') out = times(out, [1, 0, 0, 1, v[0] ?? 0, v[1] ?? 0])
    if (name === 'scale') out = times(out, [v[0] ?? 1, 0, 0, v[1] ?? v[0] ?? 1, 0, 0])
    if (name === 'rotate') {
      const r = ((v[0] ?? 0) * Math.PI) / 180
      out = times(out, [Math.cos(r), Math.sin(r), -Math.sin(r), Math.cos(r), 0, 0])
    }
    if (name === 'matrix' && v.length === 6) out = times(out, v as unknown as Matrix)
  }
  return out
}

/** A path of any commands that are used in glyphs, made absolute M, L, Q, C and Z in whole thousandths. */
export function movePath(d: string, m: Matrix, clip: Clip): { d: string; x: number } | null {
  let out = ''
  let x = 0,
    y = 0,
    startX = 0,
    startY = 0,
    left = Infinity
  let lastQ: [number, number] | null = null
  const put = (px: number, py: number) => {
    const at = applyTo(m, { x: px, y: py })
    // Only bars and the straight middles of brackets are stretched, so that holding each point inside cuts them
    // rightly.
    const p = clip
      ? { x: Math.min(clip.x1, Math.max(clip.x0, at.x)), y: Math.min(clip.y1, Math.max(clip.y0, at.y)) }
      : at
    left = Math.min(left, p.x)
    return `${Math.round(p.x)} ${Math.round(p.y)}`
  }
  for (const [command, ...all] of pathSteps(d)) {
    const size = { M: 2, L: 2, H: 1, V: 1, Q: 4, T: 2, C: 6, Z: 0 }[command.toUpperCase()]
    if (size === undefined) throw new Error(`a path command ${command} that is not known`)
    if (size === 0) {
      out += 'Z'
      x = startX
      y = startY
      continue
    }
    for (let i = 0; i + size <= all.length; i += size) {
      const relative = command !== command.toUpperCase()
      const c = all
        .slice(i, i + size)
        .map((v, k) => (relative ? v + (command === 'h' ? x : command === 'v' ? y : k % 2 ? y : x) : v))
      const kind = command.toUpperCase()
      if (kind === 'T') c.unshift(...(lastQ ? [2 * x - lastQ[0], 2 * y - lastQ[1]] : [x, y]))
      lastQ = kind === 'Q' || kind === 'T' ? [c[0]!, c[1]!] : null
      if (kind === 'H') {
        x = c[0]!
        out += `L${put(x, y)}`
      } else if (kind === 'V') {
        y = c[0]!
        out += `L${put(x, y)}`
      } else {
        const letter = kind === 'M' && i > 0 ? 'L' : kind === 'T' ? 'Q' : kind
        const pairs: string[] = []
        for (let k = 0; k + 1 < c.length; k += 2) pairs.push(put(c[k]!, c[k + 1]!))
        out += letter + pairs.join(' ')
        x = c[c.length - 2]!
        y = c[c.length - 1]!
        if (kind === 'M') {
          startX = x
          startY = y
        }
      }
    }
  }
  return out ? { d: out, x: Math.round(left) } : null
}
