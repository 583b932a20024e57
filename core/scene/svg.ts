import type { Box } from '../folio/model'
import type { Mark } from '../ink/mark'
import type { Outline } from '../ink/stroke'
import { DESK, PAPER, TRAIL, trailPen, type Scene } from './scene'

/** A picture as an SVG names it: a URL or data URI, and which part of the page it shows, points. */
export interface SvgPicture {
  href: string
  box?: Box
}

/**
 * A scene as an SVG picture, sharp at any size: the same drawings that {@link ScenePainter} paints on a canvas.
 * @param pictureOf pictures by page, and by document for those put on the board; one that is not given is left white
 */
export function sceneToSvg(scene: Scene, pictureOf: (id: string) => SvgPicture | undefined = () => undefined): string {
  const { x, y, w, h } = scene.view
  const parts = scene.drawings.map(d => {
    switch (d.kind) {
      case 'squares':
        return squares(d.box)
      case 'page':
        return `<path d="${rect(d.box, false)}" fill="${PAPER}"/>${image(pictureOf(d.pageId), d.box)}`
      case 'picture':
        return image(pictureOf(d.documentId), d.box, true)
      case 'ink':
        return d.outlines.map(outlinePath).join('')
      case 'marks':
        return [...d.marks.map(markPath), ...d.outlines.map(outlinePath)].join('')
      case 'shade':
        return `<path d="${rect(scene.view, false)}${rect(d.box, true)}" fill="#26241f" fill-opacity="${n(d.dark)}"/>`
      case 'trail':
        return trail(d.points)
      default:
        return d satisfies never
    }
  })
  return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${n(x)} ${n(y)} ${n(w)} ${n(h)}">${parts.join('')}</svg>`
}

/** A picture stretched over its box. @param own whether the box is the drawing's, whatever the picture shows */
function image(picture: SvgPicture | undefined, box: Box, own = false): string {
  if (!picture) return ''
  const b = own ? box : (picture.box ?? box)
  return `<image x="${n(b.x)}" y="${n(b.y)}" width="${n(b.w)}" height="${n(b.h)}" preserveAspectRatio="none" href="${attribute(picture.href)}"/>`
}

/** Squared paper; its lines are a pixel wide at any size. */
function squares(box: Box): string {
  const lines: string[] = []
  for (let x = Math.ceil(box.x / DESK.every) * DESK.every; x < box.x + box.w; x += DESK.every)
    lines.push(`M${n(x)} ${n(box.y)}V${n(box.y + box.h)}`)
  for (let y = Math.ceil(box.y / DESK.every) * DESK.every; y < box.y + box.h; y += DESK.every)
    lines.push(`M${n(box.x)} ${n(y)}H${n(box.x + box.w)}`)
  return `<path d="${rect(box, false)}" fill="${DESK.ground}"/><path d="${lines.join('')}" fill="none" stroke="${DESK.rule}" stroke-width="1" vector-effect="non-scaling-stroke"/>`
}

function trail(p: readonly number[]): string {
  const out: string[] = []
  for (let i = 3; i + 2 < p.length; i += 3) {
    const { width, alpha } = trailPen(p[i + 2]!)
    out.push(
      `<path d="M${n(p[i - 3]!)} ${n(p[i - 2]!)}L${n(p[i]!)} ${n(p[i + 1]!)}" fill="none" stroke="${TRAIL}" stroke-width="${n(width)}" stroke-opacity="${n(alpha)}" stroke-linecap="round"/>`,
    )
  }
  return out.join('')
}

function outlinePath(outline: Outline): string {
  const d = outline.rings
    .map(ring => {
      const count = ring.length / 2
      if (count < 3) return ''
      const mid = (i: number, j: number) =>
        `${n((ring[2 * i]! + ring[2 * j]!) / 2)} ${n((ring[2 * i + 1]! + ring[2 * j + 1]!) / 2)}`
      let out = `M${mid(count - 1, 0)}`
      for (let i = 0; i < count; i++) out += `Q${n(ring[2 * i]!)} ${n(ring[2 * i + 1]!)} ${mid(i, (i + 1) % count)}`
      return out + 'Z'
    })
    .join('')
  return `<path d="${d}" fill="${outline.colour}"${outline.alpha < 1 ? ` fill-opacity="${outline.alpha}"` : ''}/>`
}

function markPath(mark: Mark): string {
  const placed =
    mark.x || mark.y || mark.scale
      ? ` transform="translate(${n(mark.x ?? 0)} ${n(mark.y ?? 0)}) scale(${mark.scale ?? 1})"`
      : ''
  const s = mark.scale ?? 1
  const pen = mark.stroke
    ? ` stroke="${mark.stroke}" stroke-width="${n((mark.width ?? 1) / s)}" stroke-linecap="round" stroke-linejoin="round"${mark.dash ? ` stroke-dasharray="${mark.dash.map(v => n(v / s)).join(' ')}"` : ''}`
    : ''
  return `<path d="${mark.d}"${placed} fill="${mark.fill ?? 'none'}"${pen}${mark.alpha === undefined || mark.alpha === 1 ? '' : ` fill-opacity="${n(mark.alpha)}" stroke-opacity="${n(mark.alpha)}"`}/>`
}

function rect(b: Box, turned: boolean): string {
  const corners = [
    [b.x, b.y],
    [b.x + b.w, b.y],
    [b.x + b.w, b.y + b.h],
    [b.x, b.y + b.h],
  ]
  return (turned ? corners.reverse() : corners).map(([x, y], i) => `${i ? 'L' : 'M'}${n(x!)} ${n(y!)}`).join('') + 'Z'
}

const n = (v: number) => String(Math.round(v * 100) / 100)
const attribute = (s: string) => s.replace(/&/g, '&amp;').replace(/"/g, '&quot;').replace(/</g, '&lt;')
