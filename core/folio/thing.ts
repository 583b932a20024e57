import { z } from 'zod'
import { Box, coordinate, finite, id, line, PEN_ROLES } from './basics'

/**
 * What stands on a board beside ink. A thing says what it is, not how it looks: drawing it is `core/things`. Typeset
 * maths
 * is kept with it, so that every surface shows the same letters without a typesetter of its own.
 */

const role = z.enum(PEN_ROLES)
const spot = z.object({ x: coordinate, y: coordinate })
export type Spot = z.infer<typeof spot>

/**
 * A glyph or rule of a typeset line: an SVG path in thousandths of the letter size, y down, origin at the line's start
 * on its baseline.
 */
export const SetMark = z.object({
  d: z.string().max(60_000),
  colour: z
    .string()
    .regex(/^#[0-9a-f]{6}$/)
    .optional(),
  char: z.string().max(8).optional(),
})
export type SetMark = z.infer<typeof SetMark>

/**
 * A typeset line. Lengths in thousandths of the letter size; `equals` is where its first sign of relation begins,
 * `aside` where the aside at its end begins, null without one. A paragraph has its rows below the first in its depth.
 */
export const Typeset = z.object({
  width: finite,
  height: finite,
  depth: finite,
  equals: finite.nullable(),
  aside: finite.nullable().optional(),
  marks: z.array(SetMark).max(5000),
  mathml: z.string().max(200_000),
})
export type Typeset = z.infer<typeof Typeset>

/**
 * How a line was typed: words and maths together, as they come; and, in older lines, plain maths (AsciiMath), LaTeX, or
 * words with maths between backticks.
 */
export const NOTATIONS = ['mixed', 'maths', 'latex', 'words'] as const
export type Notation = (typeof NOTATIONS)[number]

/** A typed line; `at` is the start of its baseline, `size` the letter size in points. */
export const LineThing = z.object({
  kind: z.literal('line'),
  at: spot,
  size: finite.min(4).max(200),
  role,
  notation: z.enum(NOTATIONS),
  source: line(2000),
  set: Typeset,
  /** Pen lines instead of print: flat x, y, pressure, ms since it began, for each. */
  hand: z.array(z.array(finite)).max(4000).optional(),
})

export const SHAPES = ['line', 'arrow', 'rectangle', 'triangle', 'circle', 'ellipse', 'polygon', 'arc', 'axes'] as const
/**
 * A straightened shape by its handles: the ends of a line or arrow; the corners of rectangle, triangle and polygon;
 * centre and a point of
 * the rim for a circle; centre and the ends of both half axes for an ellipse; both ends and a point between for an arc;
 * origin and both ends
 * for axes.
 */
export const ShapeThing = z.object({
  kind: z.literal('shape'),
  shape: z.enum(SHAPES),
  role,
  width: finite.positive().max(40),
  handles: z.array(spot).min(2).max(60),
})
export type ShapeThing = z.infer<typeof ShapeThing>

export const TEXT_MARKS = ['band', 'underline', 'strike', 'ring', 'box'] as const
export type TextMark = (typeof TEXT_MARKS)[number]
/** A mark on words of the page: one box for each line of text it goes over. */
export const MarkThing = z.object({
  kind: z.literal('mark'),
  mark: z.enum(TEXT_MARKS),
  role,
  boxes: z.array(Box).min(1).max(200),
})

export const OPTION_STATES = ['out', 'stays', 'answer'] as const
/** What has become of an option, where it is printed, and why; `at` is where the reason's baseline begins. */
export const OptionThing = z.object({
  kind: z.literal('option'),
  label: line(12),
  box: Box,
  // Until schema 6, one that stays was `kept`.
  state: z.preprocess(state => (state === 'kept' ? 'stays' : state), z.enum(OPTION_STATES)),
  reason: line(300),
  set: Typeset.nullable(),
  at: spot,
})
export type OptionThing = z.infer<typeof OptionThing>

const number = line(240)
/** What a layout guide lines up. Numbers are kept as typed. */
export const GuideSpec = z.discriminatedUnion('guide', [
  z.object({
    guide: z.literal('columns'),
    operation: z.enum(['add', 'subtract', 'multiply']),
    numbers: z.array(number).min(2).max(12),
    // Separators as they were typed, bare zeros passed over; guides of before were laid out otherwise.
    asTyped: z.boolean().optional(),
  }),
  z.object({
    guide: z.literal('division'),
    dividend: number,
    divisor: number,
    places: z.number().int().min(0).max(50),
    // How it ends; guides of before went on to their places and stopped.
    ending: z.enum(['remainder', 'decimal', 'rounded']).optional(),
  }),
  z.object({ guide: z.literal('area'), a: number, b: number }),
  z.object({
    guide: z.literal('bar'),
    bar: z.enum(['whole', 'equal', 'compare', 'fraction']),
    numbers: z.array(number).min(1).max(20),
  }),
  z.object({
    guide: z.literal('numberLine'),
    from: number,
    to: number,
    step: number,
    points: z
      .array(z.object({ at: number, end: z.enum(['closed', 'open']), ray: z.enum(['none', 'left', 'right']) }))
      .max(20),
    // A stretch without an end on one side goes on for ever there.
    spans: z
      .array(
        z.object({
          from: number.nullable(),
          to: number.nullable(),
          fromEnd: z.enum(['closed', 'open']),
          toEnd: z.enum(['closed', 'open']),
        }),
      )
      .max(20)
      .default([]),
    jumps: z.array(number).max(30).default([]),
  }),
  // With `sum`, true or false, they are of one whole; without it each is a whole of its own.
  z.object({ guide: z.literal('strips'), fractions: z.array(number).min(1).max(12), sum: z.boolean().optional() }),
  z.object({
    guide: z.literal('units'),
    bars: z
      .array(z.object({ name: line(40), units: number }))
      .min(2)
      .max(6),
    known: z.object({
      what: z.enum(['total', 'difference', 'bar']),
      bar: z.number().int().min(0).max(5).optional(),
      value: number,
    }),
  }),
  z.object({
    guide: z.literal('factors'),
    numbers: z.array(number).min(1).max(6),
    want: z.enum(['tree', 'hcf', 'lcm', 'both']).optional(),
  }),
  z.object({
    guide: z.literal('ratio'),
    rows: z
      .array(z.object({ name: z.string().max(40), cells: z.array(number).min(2).max(10) }))
      .min(2)
      .max(5),
  }),
  z.object({ guide: z.literal('placeValue'), number, power: z.number().int().min(-6).max(6) }),
  z.object({
    guide: z.literal('values'),
    rule: number,
    xs: z.array(number).min(1).max(20),
    // Powers raised, gaps where nothing is defined.
    asTyped: z.boolean().optional(),
  }),
  z.object({
    guide: z.literal('axes'),
    x: z.tuple([number, number, number]),
    y: z.tuple([number, number, number]),
    points: z.array(z.tuple([number, number])).max(60),
    names: z.tuple([line(12), line(12)]).optional(),
  }),
  z.object({
    guide: z.literal('elimination'),
    rows: z.array(line(60)).min(1).max(10),
    columns: z.array(line(60)).min(1).max(10),
  }),
  z.object({
    guide: z.literal('logic'),
    categories: z
      .array(z.array(line(40)).min(2).max(6))
      .min(2)
      .max(5),
    clues: z.array(line(120)).max(40),
  }),
  // As equations were laid out before they could be chosen move by move.
  z.object({ guide: z.literal('balance'), left: number, right: number }),
  z.object({
    guide: z.literal('equation'),
    text: number,
    // Squares kept for the sides, so that lines chosen later stand below those that are written.
    wide: z.tuple([finite, finite]).optional(),
    chosen: z
      .array(
        z.discriminatedUnion('move', [
          z.object({ move: z.enum(['expand', 'collect', 'swap']) }),
          z.object({ move: z.enum(['add', 'subtract', 'multiply', 'divide']), by: line(60) }),
        ]),
      )
      .max(30),
  }),
])
export type GuideSpec = z.infer<typeof GuideSpec>
/** A guide with its top left corner and the side of its square cells, points; `text` is what was typed for it. */
export const GuideThing = z.object({
  kind: z.literal('guide'),
  at: spot,
  cell: finite.min(6).max(120),
  spec: GuideSpec,
  text: line(300).default(''),
})
export type GuideThing = z.infer<typeof GuideThing>

const length = finite.positive().max(1e6)
const end = z.number().min(-1e30).max(1e30)
/** Start, end and step of an axis; what it counts may be large or small, its steps are few. */
const scale = z.tuple([end, end, end.positive()])
/** A figure by its measures, in its own unit. */
export const FigureSpec = z.discriminatedUnion('figure', [
  z.object({ figure: z.literal('axes'), x: scale, y: scale, xLabel: line(80), yLabel: line(80) }),
  z.object({
    figure: z.literal('polygon'),
    sides: z.number().int().min(3).max(96),
    radius: length,
    radii: z.boolean(),
    bisectors: z.boolean(),
    label: line(80),
  }),
  z.object({
    figure: z.literal('circle'),
    radius: length,
    sectors: z.array(finite.min(0).max(360)).max(24),
    label: line(80),
  }),
  z.object({
    figure: z.literal('rightTriangle'),
    a: length,
    b: length,
    labels: z.tuple([line(80), line(80), line(80)]),
    angles: z.tuple([line(80), line(80)]),
  }),
  z.object({
    figure: z.literal('prism'),
    base: z.array(length).min(1).max(2),
    sides: z.number().int().min(3).max(8),
    height: length,
    net: z.boolean(),
  }),
  z.object({
    figure: z.literal('pyramid'),
    side: length,
    sides: z.number().int().min(3).max(8),
    height: length,
    net: z.boolean(),
  }),
  // Sides a, b, c opposite to A, B, C; null where it is not given. `marked`: all angles have their arcs.
  z.object({
    figure: z.literal('triangle'),
    sides: z.tuple([length.nullable(), length.nullable(), length.nullable()]),
    angles: z.tuple([finite.nullable(), finite.nullable(), finite.nullable()]),
    labels: z.tuple([line(80), line(80), line(80)]),
    marked: z.boolean(),
  }),
  z.object({
    figure: z.literal('round'),
    solid: z.enum(['cylinder', 'cone', 'sphere']),
    radius: length,
    height: length,
  }),
  z.object({ figure: z.literal('box'), size: z.tuple([length, length, length]), open: z.boolean(), net: z.boolean() }),
  z.object({ figure: z.literal('molecule'), formula: line(40), dots: z.boolean() }),
  z.object({
    figure: z.literal('forces'),
    arrows: z
      .array(z.object({ angle: finite, size: length, label: line(80) }))
      .min(1)
      .max(12),
  }),
  z.object({ figure: z.literal('circuit'), symbol: line(30), label: line(80) }),
  z.object({
    figure: z.literal('table'),
    rows: z
      .array(z.array(line(120)).max(12))
      .min(1)
      .max(30),
  }),
])
export type FigureSpec = z.infer<typeof FigureSpec>
/**
 * A figure at its top left corner; `unit` is how many points one of its own units takes; its labels typeset, by their
 * source.
 */
export const FigureThing = z.object({
  kind: z.literal('figure'),
  at: spot,
  unit: finite.positive().max(1000),
  role,
  spec: FigureSpec,
  text: line(300).default(''),
  sets: z.record(z.string().max(200), Typeset),
})
export type FigureThing = z.infer<typeof FigureThing>

/**
 * A way over a figure that takes the numbers it passes, with their list and running total at `at`; `colour` tells it
 * from other ways.
 */
export const TallyThing = z.object({
  kind: z.literal('tally'),
  colour: z.string().regex(/^#[0-9a-f]{6}$/),
  path: z.array(spot).max(400),
  numbers: z.array(number).max(200),
  at: spot,
  size: finite.min(4).max(100),
})
export type TallyThing = z.infer<typeof TallyThing>

/** A picture of the folio's documents. */
export const PictureThing = z.object({ kind: z.literal('picture'), documentId: id, box: Box, name: line(255) })

export const Thing = z.discriminatedUnion('kind', [
  LineThing,
  ShapeThing,
  MarkThing,
  OptionThing,
  GuideThing,
  FigureThing,
  TallyThing,
  PictureThing,
])
export type Thing = z.infer<typeof Thing>
export type LineThing = z.infer<typeof LineThing>
export type MarkThing = z.infer<typeof MarkThing>

/** Working prepared before a take; it stays hidden until it is revealed, in the order of the list or by its name. */
export const HeldLine = z.object({ id, name: line(120), pageId: id, thing: Thing, how: z.enum(['writing', 'at once']) })
export type HeldLine = z.infer<typeof HeldLine>
