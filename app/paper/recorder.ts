import { moved, type Drawn, type DrawnClip, type Matrix, type PathCommand, type PrintPaint } from '#core/lesson'

/** Recorded so many times larger, so that the finest line keeps its width: a reader of PDFs draws none under a pixel. */
const LARGER = 8

/** A path of the browser's that also tells what it is made of. */
interface TellingPath extends Path2D {
  readonly commands: PathCommand[]
  /** Whether it has pieces that are not told. */
  readonly dumb: boolean
}

/** @returns a class of paths that take the browser's own one's place */
function tellingPaths(Native: typeof Path2D) {
  return class extends Native implements TellingPath {
    commands: PathCommand[] = []
    dumb = false
    /** Those that were made before are paths as well. */
    static override [Symbol.hasInstance](value: unknown) {
      return value instanceof Native
    }
    constructor(from?: Path2D | string) {
      super(from)
      if (typeof from === 'string') this.dumb = true
      else if (from) this.take(from)
    }
    private take(from: Path2D, matrix?: DOMMatrix2DInit) {
      const { commands, dumb } = from as TellingPath
      if (!commands || dumb) this.dumb = true
      else this.commands.push(...(matrix ? moved(commands, matrixOf(matrix)) : commands))
    }
    override addPath(path: Path2D, matrix?: DOMMatrix2DInit) {
      super.addPath(path, matrix)
      this.take(path, matrix)
    }
    override moveTo(x: number, y: number) {
      super.moveTo(x, y)
      this.commands.push(['M', x, y])
    }
    override lineTo(x: number, y: number) {
      super.lineTo(x, y)
      this.commands.push(['L', x, y])
    }
    override quadraticCurveTo(a: number, b: number, x: number, y: number) {
      super.quadraticCurveTo(a, b, x, y)
      this.commands.push(['Q', a, b, x, y])
    }
    override bezierCurveTo(a: number, b: number, c: number, d: number, x: number, y: number) {
      super.bezierCurveTo(a, b, c, d, x, y)
      this.commands.push(['C', a, b, c, d, x, y])
    }
    override closePath() {
      super.closePath()
      this.commands.push(['Z'])
    }
    override rect(x: number, y: number, w: number, h: number) {
      super.rect(x, y, w, h)
      this.commands.push(['M', x, y], ['L', x + w, y], ['L', x + w, y + h], ['L', x, y + h], ['Z'])
    }
    override arc(...args: Parameters<Path2D['arc']>) {
      super.arc(...args)
      this.dumb = true
    }
    override arcTo(...args: Parameters<Path2D['arcTo']>) {
      super.arcTo(...args)
      this.dumb = true
    }
    override ellipse(...args: Parameters<Path2D['ellipse']>) {
      super.ellipse(...args)
      this.dumb = true
    }
    override roundRect(...args: Parameters<Path2D['roundRect']>) {
      super.roundRect(...args)
      this.dumb = true
    }
  }
}

const matrixOf = (m: DOMMatrix2DInit): Matrix => [m.a ?? 1, m.b ?? 0, m.c ?? 0, m.d ?? 1, m.e ?? 0, m.f ?? 0]

/** What cannot be told as shapes: pictures, letters of a font of the machine, and what is laid over something softly. */
const UNTOLD = ['drawImage', 'putImageData', 'fillText', 'strokeText', 'strokeRect', 'beginPath', 'rect'] as const

/**
 * A context that paints nothing to be seen, and tells what was drawn on it.
 * @param context paints nothing that is needed; its transforms and its states are what is read
 */
class Recorder {
  readonly drawn: Drawn[] = []
  whole = true
  private clips: DrawnClip[] = []
  private readonly stack: DrawnClip[][] = []
  private first = true
  readonly proxy: CanvasRenderingContext2D

  constructor(private readonly context: CanvasRenderingContext2D) {
    const own: Record<string, unknown> = {
      save: () => {
        context.save()
        this.stack.push(this.clips)
      },
      restore: () => {
        context.restore()
        this.clips = this.stack.pop() ?? this.clips
      },
      fillRect: (x: number, y: number, w: number, h: number) => this.rectangle(x, y, w, h),
      fill: (path?: Path2D | string, rule?: string) =>
        this.add(path, {
          fill: String(context.fillStyle),
          ...(rule === 'evenodd' ? { even: true } : {}),
        }),
      stroke: (path?: Path2D) =>
        this.add(path, {
          stroke: String(context.strokeStyle),
          width: context.lineWidth,
          cap: context.lineCap,
          join: context.lineJoin,
          miter: context.miterLimit,
          ...(context.getLineDash().length ? { dash: context.getLineDash() } : {}),
        }),
      clip: (path?: Path2D | string, rule?: string) => {
        if (!this.tells(path)) return
        this.clips = [...this.clips, { path: path.commands, matrix: this.matrix(), even: rule === 'evenodd' }]
      },
      ...Object.fromEntries(UNTOLD.map(name => [name, () => this.refuse()])),
    }
    this.proxy = new Proxy(context, {
      get(target, key) {
        if (typeof key === 'string' && Object.hasOwn(own, key)) return own[key]
        const value: unknown = Reflect.get(target, key, target)
        return typeof value === 'function' ? value.bind(target) : value
      },
      set: (target, key, value) => {
        const soft =
          (key === 'globalCompositeOperation' && value !== 'source-over') || (key === 'filter' && value !== 'none')
        if (soft || ((key === 'fillStyle' || key === 'strokeStyle') && typeof value !== 'string')) this.refuse()
        return Reflect.set(target, key, value, target)
      },
    })
  }

  private refuse() {
    this.whole = false
  }
  private tells(path: unknown): path is TellingPath {
    const told = path instanceof Path2D && 'commands' in path && !(path as TellingPath).dumb
    if (!told) this.refuse()
    return told
  }
  /** Units of what is drawn now, to points of the frame. */
  private matrix(): Matrix {
    return matrixOf(this.context.getTransform()).map(v => v / LARGER) as Matrix
  }
  private add(path: unknown, paint: PrintPaint) {
    if (!this.tells(path)) return
    const { globalAlpha } = this.context
    this.drawn.push({
      path: path.commands,
      matrix: this.matrix(),
      paint: globalAlpha < 1 ? { ...paint, alpha: globalAlpha } : paint,
      clips: this.clips,
    })
  }
  private rectangle(x: number, y: number, w: number, h: number) {
    // The first is the paper.
    if (!this.first) {
      const path = new Path2D()
      path.rect(x, y, w, h)
      this.add(path, { fill: String(this.context.fillStyle) })
    }
    this.first = false
  }
}

/** One at a time: each has paths of its own class. */
let busy: Promise<unknown> = Promise.resolve()

/**
 * What is drawn, as shapes; null where something of it is no shape.
 * @param draw draws it so many times larger on the context that it is given
 */
export function recorded(
  draw: (context: CanvasRenderingContext2D, larger: number) => Promise<void>,
): Promise<Drawn[] | null> {
  const mine = busy.then(() => recordedNow(draw))
  busy = mine.catch(() => {})
  return mine
}

async function recordedNow(draw: Parameters<typeof recorded>[0]): Promise<Drawn[] | null> {
  const canvas = Object.assign(document.createElement('canvas'), { width: 16, height: 16 })
  const recorder = new Recorder(canvas.getContext('2d', { willReadFrequently: true })!)
  const native = globalThis.Path2D
  // Paths do not tell what they are made of; those made meanwhile do, and are the browser's own beside that.
  globalThis.Path2D = tellingPaths(native)
  try {
    await draw(recorder.proxy, LARGER)
  } finally {
    globalThis.Path2D = native
  }
  return recorder.whole ? recorder.drawn : null
}
