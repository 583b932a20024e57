import { describe, expect, it } from 'vitest'
import { OutlineCache, ScenePainter, sceneOf, sceneToSvg, type Context2D, type PagePicture } from '../../core/scene'
import { BoardIndex, type TakeEvent } from '../../core/recording'
import { XMLValidator } from 'fast-xml-parser'
import { line } from '../support/make'

/** A surface that writes down what is drawn on it. */
class Recorder implements Context2D {
  calls: string[] = []
  fillStyle: unknown = ''
  strokeStyle: unknown = ''
  globalAlpha = 1
  lineWidth = 1
  private note(name: string, ...values: number[]) {
    this.calls.push(`${name}(${values.map(v => v.toFixed(3)).join()})`)
  }
  setTransform(...v: [number, number, number, number, number, number]) {
    this.note('transform', ...v)
  }
  fillRect(...v: [number, number, number, number]) {
    this.note(`fillRect ${String(this.fillStyle)}`, ...v)
  }
  clearRect(...v: [number, number, number, number]) {
    this.note('clearRect', ...v)
  }
  beginPath() {
    this.note('begin')
  }
  moveTo(...v: [number, number]) {
    this.note('move', ...v)
  }
  lineTo(...v: [number, number]) {
    this.note('line', ...v)
  }
  quadraticCurveTo(...v: [number, number, number, number]) {
    this.note('curve', ...v)
  }
  bezierCurveTo(...v: [number, number, number, number, number, number]) {
    this.note('bezier', ...v)
  }
  setLineDash(v: number[]) {
    this.note('dash', ...v)
  }
  save() {
    this.note('save')
  }
  restore() {
    this.note('restore')
  }
  translate(...v: [number, number]) {
    this.note('translate', ...v)
  }
  scale(...v: [number, number]) {
    this.note('scale', ...v)
  }
  lineCap: unknown = ''
  lineJoin: unknown = ''
  closePath() {
    this.note('close')
  }
  fill() {
    this.note(`fill ${String(this.fillStyle)} ${this.globalAlpha}`)
  }
  stroke() {
    this.note('stroke')
  }
}
const page = { id: 'p1', width: 595, height: 842 }
const view = { x: 20, y: 40, w: 400, h: 225 }
const size = { width: 1280, height: 720 }
const events: TakeEvent[] = [
  line('a', 0, { y: 60 }),
  line('b', 200, { y: 80, role: 'answer' }),
  line('c', 400, { y: 100, role: 'aside' }),
  { type: 'erase', t: 600, id: 'e', strokes: ['b'] },
  line('d', 700, { y: 120, role: 'given' }),
  { type: 'undo', t: 900, target: 'e' },
]
const index = new BoardIndex(events)
/** What is on the canvas after its ground was last painted. */
const sinceGround = (calls: string[]) =>
  calls
    .slice(calls.map(c => c.startsWith('fillRect #fbf9f3')).lastIndexOf(true))
    .filter(c => !c.startsWith('transform'))

describe('the scene', () => {
  it('is the same for the same log and moment', () => {
    expect(sceneOf(index.at(450), page, view)).toEqual(sceneOf(new BoardIndex(events).at(450), page, view))
  })
  it('holds the page and each stroke in its order', () => {
    expect(sceneOf(index.at(450), page, view).drawings.map(d => (d.kind === 'ink' ? d.key : d.kind))).toEqual([
      'squares',
      'page',
      'a:11',
      'b:11',
      'c:6',
    ])
  })
  it('keeps outlines of whole strokes, never of growing ones', () => {
    const cache = new OutlineCache()
    const whole = cache.of(index.at(150).strokes[0]!.stroke, 11)
    expect(cache.of(index.at(150).strokes[0]!.stroke, 11)).toBe(whole)
    expect(cache.of(index.at(150).strokes[0]!.stroke, 5)).not.toEqual(whole)
  })
})

describe('painting bit by bit', () => {
  it('gives the same picture as painting each scene whole', () => {
    const context = new Recorder()
    const painter = new ScenePainter(context, size)
    const cache = new OutlineCache()
    for (let t = 0; t <= 1000; t += 33) {
      painter.paint(sceneOf(index.at(t), page, view, cache), () => undefined)
      const fresh = new Recorder()
      new ScenePainter(fresh, size).paint(sceneOf(index.at(t), page, view), () => undefined)
      expect(sinceGround(context.calls)).toEqual(sinceGround(fresh.calls))
    }
  })
  it('adds only what has come, and nothing when nothing has', () => {
    const context = new Recorder()
    const painter = new ScenePainter(context, size)
    painter.paint(sceneOf(index.at(150), page, view), () => undefined)
    const before = context.calls.length
    expect(painter.paint(sceneOf(index.at(160), page, view), () => undefined)).toBe(false)
    expect(context.calls.length).toBe(before)
    painter.paint(sceneOf(index.at(350), page, view), () => undefined)
    expect(context.calls.slice(before).filter(c => c.startsWith('fillRect'))).toEqual([])
    painter.reset()
    painter.paint(sceneOf(index.at(350), page, view), () => undefined)
    expect(context.calls.at(-1)).toContain('fill')
  })
  it('paints anew when the picture of the page has come', () => {
    const context = new Recorder()
    const painter = new ScenePainter(context, size)
    painter.paint(sceneOf(index.at(0), page, view), () => undefined)
    let drawn = 0
    const picture: PagePicture = {
      box: view,
      draw: () => {
        drawn++
      },
    }
    painter.paint(sceneOf(index.at(0), page, view), () => picture)
    painter.paint(sceneOf(index.at(0), page, view), () => picture)
    expect(drawn).toBe(1)
  })
  it('lays the frame over the whole surface', () => {
    const context = new Recorder()
    new ScenePainter(context, size).paint(sceneOf(index.at(0), page, view), () => undefined)
    expect(context.calls[0]).toBe('transform(3.200,0.000,0.000,3.200,-64.000,-128.000)')
  })
})

describe('the scene as SVG', () => {
  it('is well-formed, shows the frame and one shape for each outline', () => {
    const svg = sceneToSvg(sceneOf(index.last(), page, view), () => ({ href: 'a"&<.png' }))
    expect(XMLValidator.validate(svg)).toBe(true)
    expect(svg).toContain('viewBox="20 40 400 225"')
    expect(svg.match(/<path d="M[^"]*Q/g)!.length).toBe(5)
    expect(svg).toContain('href="a&quot;&amp;&lt;.png"')
  })
})
