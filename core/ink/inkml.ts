import { XMLParser, XMLValidator } from 'fast-xml-parser'
import { Trouble } from '../folio/trouble'
import { PEN_ROLES, ROLE_STYLES, type PenRole } from './roles'
import { POINT_SIZE, type InkTool, type Stroke } from './stroke'

/**
 * Ink as W3C InkML (Recommendation, 20 September 2011). One `trace` a stroke; the channels X, Y (points), F (0…1) and
 * T (ms since the take began); a `brush` for each pen role and a `context` for each role and tool.
 */
export function writeInkml(strokes: readonly Stroke[]): string {
  const contexts = new Map<string, { role: PenRole; tool: InkTool }>()
  for (const s of strokes) contexts.set(`${s.role}-${s.tool}`, { role: s.role, tool: s.tool })
  const brushes = PEN_ROLES.map(role => {
    const style = ROLE_STYLES[role]
    return `    <brush xml:id="${role}">
      <brushProperty name="color" value="${style.colour}"/>
      <brushProperty name="width" value="${style.width}" units="pt"/>
      <brushProperty name="transparency" value="${Math.round((1 - style.alpha) * 255)}"/>
    </brush>`
  })
  const sources = (['pen', 'touch', 'mouse'] as const).map(
    tool => `    <inkSource xml:id="source-${tool}">
      <traceFormat href="#format"/>
    </inkSource>`,
  )
  const lines = [...contexts].map(
    ([name, c]) =>
      `    <context xml:id="${name}" inkSourceRef="#source-${c.tool}" brushRef="#${c.role}" timestampRef="#start"/>`,
  )
  const traces = strokes.map(
    s => `  <trace xml:id="s-${s.id}" contextRef="#${s.role}-${s.tool}">${samples(s.points)}</trace>`,
  )
  return `<?xml version="1.0" encoding="UTF-8"?>
<ink xmlns="http://www.w3.org/2003/InkML">
  <definitions>
    <traceFormat xml:id="format">
      <channel name="X" type="decimal" units="pt"/>
      <channel name="Y" type="decimal" units="pt"/>
      <channel name="F" type="decimal" min="0" max="1"/>
      <channel name="T" type="integer" units="ms" respectTo="#start"/>
    </traceFormat>
    <timestamp xml:id="start" time="0"/>
${[...brushes, ...sources, ...lines].join('\n')}
  </definitions>
${traces.join('\n')}
</ink>
`
}

function samples(points: readonly number[]): string {
  const out: string[] = []
  for (let i = 0; i < points.length; i += POINT_SIZE) out.push(points.slice(i, i + POINT_SIZE).join(' '))
  return out.join(', ')
}

/**
 * Reads the ink that {@link writeInkml} writes.
 * @param name of the file, for the error
 * @throws Trouble `ink-unreadable`
 * @returns strokes: x, y in points, pressure 0…1, times in ms since the take began
 * @example readInkml(writeInkml(strokes), 'ink.inkml') // strokes
 */
export function readInkml(xml: string, name: string): Stroke[] {
  const bad = (why: string) =>
    new Trouble(
      'ink-unreadable',
      `The ink in ${name} cannot be read: ${why}.`,
      'The file itself was not changed.',
      'Save the folio once more where it came from, and open that file.',
    )
  // Samples are by far the most of it; the parser of XML gets a number in the place of each trace's own.
  const samples: string[] = []
  const bare = xml.replace(/(<trace\b[^>]*[^/>]>)([^<]*)(?=<\/trace\s*>)/g, (_, open: string, text: string) => {
    return `${open}${samples.push(text) - 1}`
  })
  const ink = elementOf(bare, bad)
  const channels: unknown[] = listOf(ink.definitions?.traceFormat?.channel).map(c => c.name)
  const order = ['X', 'Y', 'F', 'T'].map(n => channels.indexOf(n))
  if (order.includes(-1)) throw bad('its traces do not have the channels X, Y, F and T')
  const contexts = new Map<string, { role: PenRole; tool: InkTool }>()
  for (const c of listOf(ink.definitions?.context)) {
    const role = PEN_ROLES.find(r => c.brushRef === `#${r}`)
    const tool = (['pen', 'touch', 'mouse'] as const).find(x => c.inkSourceRef === `#source-${x}`)
    if (role && tool) contexts.set(`#${c['xml:id']}`, { role, tool })
  }
  return listOf(ink.trace).map(trace => {
    const context = contexts.get(String(trace.contextRef ?? ''))
    const id = String(trace['xml:id'] ?? '').replace(/^s-/, '')
    if (!context || !/^[A-Za-z0-9_-]{1,64}$/.test(id)) throw bad('a trace has no known context')
    const text = samples[Number(trace['#text'])] ?? ''
    const points = pointsIn(text, channels.length, order)
    if (!points) throw bad(`the trace ${id} has a sample that is not ${channels.length} numbers`)
    return { id, ...context, points }
  })
}

/** The numbers of a trace in the order of ours; null where a sample has not as many as there are channels. */
function pointsIn(text: string, channels: number, order: readonly number[]): number[] | null {
  const points: number[] = []
  for (let from = 0; from <= text.length; ) {
    const comma = text.indexOf(',', from)
    const sample = text.slice(from, comma < 0 ? text.length : comma).trim()
    from = comma < 0 ? text.length + 1 : comma + 1
    if (!sample) continue
    let values = sample.split(' ')
    if (values.length !== channels) values = sample.split(/\s+/)
    if (values.length !== channels) return null
    for (const i of order) {
      const value = Number(values[i])
      if (!(Math.abs(value) <= MOST)) return null
      points.push(value)
    }
  }
  return points
}

/** Largest number in a sample: no page is so large, and no take so long. */
const MOST = 1e9

type Element = Record<string, unknown>
interface Ink {
  definitions?: { traceFormat?: { channel?: unknown }; context?: unknown }
  trace?: unknown
}
const listOf = (value: unknown): Element[] =>
  Array.isArray(value) ? value.filter((v): v is Element => typeof v === 'object' && v !== null) : []

/**
 * The ink element of a text. Whatever the parser stumbles over (depth, names that objects have of themselves) is told
 * like any other fault.
 */
function elementOf(xml: string, bad: (why: string) => Trouble): Ink {
  let ink: unknown
  try {
    if (XMLValidator.validate(xml) !== true) throw bad('it is not well-formed XML')
    const parser = new XMLParser({
      ignoreAttributes: false,
      attributeNamePrefix: '',
      parseTagValue: false,
      processEntities: false,
      isArray: tag => tag === 'trace' || tag === 'context' || tag === 'channel',
    })
    ink = (parser.parse(xml) as { ink?: unknown } | undefined)?.ink
  } catch (error) {
    throw error instanceof Trouble ? error : bad('it is not XML as ink is written')
  }
  if (typeof ink !== 'object' || ink === null) throw bad('there is no ink element')
  return ink
}
