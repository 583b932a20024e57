import type { Mark } from '../ink/mark'
import type { Outline } from '../ink/stroke'
import { DESK, PAPER, type Scene } from './scene'

/**
 * A scene as an SVG picture, sharp at any size. The page itself is named by `pageHref` (a URL or data URI), if given.
 */
export function sceneToSvg(scene: Scene, pageHref?: string): string {
  const { x, y, w, h } = scene.view
  const parts = scene.drawings.map((d) => {
    if (d.kind === 'squares') return `<rect x="${n(d.box.x)}" y="${n(d.box.y)}" width="${n(d.box.w)}" height="${n(d.box.h)}" fill="${DESK.ground}"/>`
    if (d.kind === 'page') {
      const place = `x="${n(d.box.x)}" y="${n(d.box.y)}" width="${n(d.box.w)}" height="${n(d.box.h)}"`
      return `<rect ${place} fill="${PAPER}"/>` + (pageHref ? `<image ${place} href="${attribute(pageHref)}"/>` : '')
    }
    if (d.kind === 'ink') return d.outlines.map(outlinePath).join('')
    if (d.kind === 'marks') return [...d.marks.map(markPath), ...d.outlines.map(outlinePath)].join('')
    if (d.kind === 'shade') return `<path d="${rect(scene.view, false)}${rect(d.box, true)}" fill="#26241f" fill-opacity="${n(d.dark)}"/>`
    return ''
  })
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${n(x)} ${n(y)} ${n(w)} ${n(h)}">${parts.join('')}</svg>`
}

function outlinePath(outline: Outline): string {
  const d = outline.rings.map((ring) => {
    const count = ring.length / 2
    if (count < 3) return ''
    const mid = (i: number, j: number) => `${n((ring[2 * i]! + ring[2 * j]!) / 2)} ${n((ring[2 * i + 1]! + ring[2 * j + 1]!) / 2)}`
    let out = `M${mid(count - 1, 0)}`
    for (let i = 0; i < count; i++) out += `Q${n(ring[2 * i]!)} ${n(ring[2 * i + 1]!)} ${mid(i, (i + 1) % count)}`
    return out + 'Z'
  }).join('')
  return `<path d="${d}" fill="${outline.colour}"${outline.alpha < 1 ? ` fill-opacity="${outline.alpha}"` : ''}/>`
}

function markPath(mark: Mark): string {
  const placed = mark.x || mark.y || mark.scale ? ` transform="translate(${n(mark.x ?? 0)} ${n(mark.y ?? 0)}) scale(${mark.scale ?? 1})"` : ''
  const s = mark.scale ?? 1
  const pen = mark.stroke ? ` stroke="${mark.stroke}" stroke-width="${n((mark.width ?? 1) / s)}" stroke-linecap="round" stroke-linejoin="round"${mark.dash ? ` stroke-dasharray="${mark.dash.map(v => n(v / s)).join(' ')}"` : ''}` : ''
  return `<path d="${mark.d}"${placed} fill="${mark.fill ?? 'none'}"${pen}${mark.alpha === undefined || mark.alpha === 1 ? '' : ` opacity="${n(mark.alpha)}"`}/>`
}

function rect(b: { x: number, y: number, w: number, h: number }, turned: boolean): string {
  const corners = [[b.x, b.y], [b.x + b.w, b.y], [b.x + b.w, b.y + b.h], [b.x, b.y + b.h]]
  return (turned ? corners.reverse() : corners).map(([x, y], i) => `${i ? 'L' : 'M'}${n(x!)} ${n(y!)}`).join('') + 'Z'
}

const n = (v: number) => String(Math.round(v * 100) / 100)
const attribute = (s: string) => s.replace(/&/g, '&amp;').replace(/"/g, '&quot;').replace(/</g, '&lt;')
