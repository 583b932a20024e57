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
    return d.outlines.map(outlinePath).join('')
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

const n = (v: number) => String(Math.round(v * 100) / 100)
const attribute = (s: string) => s.replace(/&/g, '&amp;').replace(/"/g, '&quot;').replace(/</g, '&lt;')
