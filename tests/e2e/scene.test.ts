import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { build } from 'esbuild'
import type { Browser } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Box, Frame } from '../../core/folio'
import { sceneOf, sceneToSvg, turnCard, type Scene } from '../../core/scene'
import { BoardIndex, type TakeEvent } from '../../core/recording'
import { makeDemoFolio } from '../../demo/make'
import { launch } from '../support/browser'
import { likeness } from '../support/media'
import { line } from '../support/make'

/** One scene, two surfaces: what the SVG shows is what the canvas shows, compared as pictures by ffmpeg. */
const dir = mkdtempSync(join(tmpdir(), 'orthograph-scene-'))
const root = join(import.meta.dirname, '../..')
let browser: Browser & { profile: string }
let painter = ''
/** A picture of four colours, so that one that is turned, moved or stretched is noticed. */
const FOUR =
  'data:image/svg+xml,' +
  encodeURIComponent(
    '<svg xmlns="http://www.w3.org/2000/svg" width="80" height="60"><rect width="40" height="30" fill="#c33"/><rect x="40" width="40" height="30" fill="#3a3"/><rect y="30" width="40" height="30" fill="#33c"/><rect x="40" y="30" width="40" height="30" fill="#cc3"/></svg>',
  )
const page = { id: 'p1', width: 595.28, height: 841.89 }
const part: Box = { x: 60, y: 120, w: 300, h: 200 }

beforeAll(async () => {
  const { outputFiles } = await build({
    stdin: { contents: 'export { ScenePainter } from "./core/scene/canvas"', resolveDir: root },
    bundle: true,
    write: false,
    format: 'iife',
    globalName: 'scenes',
    alias: { '#core': join(root, 'core') },
  })
  painter = outputFiles[0]!.text
  browser = await launch()
})
afterAll(async () => {
  await browser?.close()
  for (const folder of [dir, browser?.profile])
    if (folder) rmSync(folder, { recursive: true, force: true, maxRetries: 5 })
})

/** @returns how alike the two pictures of a scene are, dB */
async function alike(name: string, scene: Scene): Promise<number> {
  const view = await browser.newPage()
  const svg = sceneToSvg(scene, id => (id === 'p1' ? { href: FOUR, box: part } : { href: FOUR }))
  const pngs = await view.evaluate(
    async (script: string, of: Scene, markup: string, href: string, box: Box) => {
      const { ScenePainter } = (0, eval)(`${script}; scenes`) as {
        ScenePainter: new (c: unknown, s: object) => { paint(s: Scene, p: (id: string) => object): void }
      }
      const image = async (src: string) => {
        const i = new Image()
        i.src = src
        await i.decode()
        return i
      }
      const four = await image(href)
      const canvasOf = () => {
        const canvas = new OffscreenCanvas(1280, 720)
        return { canvas, context: canvas.getContext('2d', { alpha: false })! }
      }
      const painted = canvasOf(),
        drawn = canvasOf()
      new ScenePainter(painted.context, painted.canvas).paint(of, id => ({
        box: id === 'p1' ? box : { x: 0, y: 0, w: 80, h: 60 },
        draw: (c: OffscreenCanvasRenderingContext2D, b: Box) => c.drawImage(four, b.x, b.y, b.w, b.h),
      }))
      drawn.context.drawImage(
        await image(
          `data:image/svg+xml,${encodeURIComponent(markup.replace('<svg ', '<svg width="1280" height="720" '))}`,
        ),
        0,
        0,
      )
      return Promise.all(
        [painted, drawn].map(async ({ canvas }) => [
          ...new Uint8Array(await (await canvas.convertToBlob()).arrayBuffer()),
        ]),
      )
    },
    painter,
    scene,
    svg,
    FOUR,
    part,
  )
  await view.close()
  const [canvas, own] = pngs.map((bytes, i) => {
    const path = join(dir, `${name}-${i}.png`)
    writeFileSync(path, Buffer.from(bytes))
    return path
  })
  return likeness(canvas!, own!)
}

describe('a scene as SVG and on a canvas', () => {
  it('shows the same of the sample’s boards: ink, guides, typed lines, options, a closer look, the card', async () => {
    const { takes } = await makeDemoFolio()
    for (const [i, { take, events }] of takes.entries()) {
      const index = new BoardIndex(events, take.frame)
      const board = index.at(take.durationMs * [1, 0.5, 0.8, 0.6, 0.55][i]!)
      const scene = sceneOf(board, page, board.look ?? take.frame.box)
      if (i === 1) scene.drawings.push(turnCard(take.frame.box, 60, 4))
      expect(await alike(`take-${i}`, scene), `take ${i}`).toBeGreaterThan(32)
    }
  })
  it('shows pictures on the board, a pointer’s trail, the light on a piece, bands and dashes, squares beyond the page, dark paper', async () => {
    const frame: Frame = { pageId: 'p1', box: { x: -80, y: 60, w: 480, h: 270 } }
    const events: TakeEvent[] = [
      line('a', 0, { y: 140, x: 40, length: 200, role: 'carry' }),
      line('b', 50, { y: 160, x: 40, length: 200, role: 'given' }),
      line('c', 60, { y: 180, x: 40, length: 200, role: 'aside' }),
      {
        type: 'place',
        t: 100,
        id: 'p',
        over: 0,
        thing: { kind: 'picture', documentId: 'd', box: { x: 210, y: 200, w: 130, h: 50 }, name: '' },
      },
      {
        type: 'place',
        t: 110,
        id: 'm',
        over: 0,
        thing: { kind: 'mark', mark: 'band', role: 'given', boxes: [{ x: 80, y: 210, w: 100, h: 14 }] },
      },
      {
        type: 'place',
        t: 120,
        id: 'o',
        over: 0,
        thing: { kind: 'mark', mark: 'ring', role: 'aside', boxes: [{ x: 80, y: 240, w: 60, h: 14 }] },
      },
      {
        type: 'trail',
        t: 900,
        id: 't',
        points: Array.from({ length: 30 }, (_, i) => [
          100 + 6 * i,
          260 + 20 * Math.sin(i / 4),
          0.5,
          900 + 10 * i,
        ]).flat(),
      },
      { type: 'spot', t: 600, box: { x: 60, y: 100, w: 200, h: 120 } },
    ]
    const board = new BoardIndex(events, frame).at(1200)
    expect([board.trails!.length, board.spot!.dark > 0, board.things.length]).toEqual([1, true, 3])
    for (const dark of [false, true])
      expect(
        await alike(`odds-${dark}`, sceneOf(board, { ...page, dark }, frame.box)),
        `dark: ${dark}`,
      ).toBeGreaterThan(32)
  })
})
