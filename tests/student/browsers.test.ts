import { readdirSync, readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import { describe, expect, it } from 'vitest'
import type { CompatData, Identifier } from '@mdn/browser-compat-data'

/**
 * What the student page uses is in the current browsers that students have, by the published tables (MDN's browser
 * compatibility data, CC0). Only Chromium can be run here.
 */
const data = createRequire(import.meta.url)('@mdn/browser-compat-data') as CompatData
const BROWSERS = ['chrome', 'chrome_android', 'firefox', 'safari', 'safari_ios'] as const
const current = (browser: (typeof BROWSERS)[number]) =>
  Number(Object.entries(data.browsers[browser].releases).find(([, r]) => r.status === 'current')![0])
const student = join(import.meta.dirname, '../../student')
const sources = readdirSync(student)
  .filter(f => f.endsWith('.ts'))
  .map(f => readFileSync(join(student, f), 'utf8'))
  .concat(
    ['lesson/form', 'lesson/handIn', 'scene/canvas', 'scene/scene', 'recording/board', 'recording/events/index'].map(
      f => readFileSync(join(student, `../core/${f}.ts`), 'utf8'),
    ),
  )
const style = readFileSync(join(student, 'page.css'), 'utf8')

const at = (path: string) =>
  path.split('.').reduce<Identifier | undefined>((o, k) => o?.[k], data as unknown as Identifier)
/** Browsers that lack something, of those that are current. */
function lacking(path: string): string[] {
  const compat = at(path)?.__compat
  if (!compat) throw new Error(`the tables do not know ${path}`)
  return BROWSERS.filter(browser => {
    const support = [compat.support[browser] ?? []].flat().find(s => !s.flags && !s.prefix && !s.alternative_name)
    const since = support?.version_added
    return (
      typeof since !== 'string' ||
      support?.partial_implementation ||
      support?.version_removed ||
      Number(since.replace('≤', '')) > current(browser)
    )
  })
}
/** What is missing somewhere, and what the page does there. */
const KNOWN: Record<string, string[]> = {
  // The picture fills the window instead.
  'api.Element.requestFullscreen': ['safari_ios'],
  // A box is ticked in the browser's own colour.
  'css.properties.accent-color': ['chrome_android'],
}

describe('the student page uses only what current browsers have', () => {
  it('of what it makes', () => {
    const made = [...new Set(sources.flatMap(s => [...s.matchAll(/\bnew ([A-Z]\w+)\b/g)].map(m => m[1]!)))]
    const known = made.filter(name => name in data.api)
    expect(known.length).toBeGreaterThan(5)
    for (const name of known) expect(lacking(`api.${name}`), name).toEqual([])
  })
  it('of its style', () => {
    const used = [...new Set([...style.matchAll(/[{;]\s*([a-z-]+)\s*:/g)].map(m => m[1]!))].filter(
      p => !p.startsWith('--'),
    )
    const known = used.filter(p => p in data.css.properties!)
    expect(known.length).toBeGreaterThan(40)
    for (const property of known.map(p => `css.properties.${p}`))
      expect(lacking(property), property).toEqual(KNOWN[property] ?? [])
  })
  it.each([
    'api.DecompressionStream.DecompressionStream',
    'api.PointerEvent.getCoalescedEvents',
    'api.Element.setPointerCapture',
    'api.Element.requestFullscreen',
    'api.Element.replaceChildren',
    'api.HTMLMediaElement.preservesPitch',
    'api.HTMLMediaElement.playbackRate',
    'api.BaseAudioContext.decodeAudioData',
    'api.MediaRecorder.isTypeSupported_static',
    'api.Clipboard.writeText',
    'api.Window.matchMedia',
    'api.Window.localStorage',
    'javascript.builtins.Array.findLast',
    'javascript.builtins.Array.at',
    'javascript.operators.optional_chaining',
    'javascript.operators.nullish_coalescing_assignment',
    'javascript.classes.private_class_fields',
    'html.elements.details',
    'html.elements.track',
    'http.headers.Content-Security-Policy.script-src',
  ])('%s', path => expect(lacking(path)).toEqual(KNOWN[path] ?? []))
})
