import { XMLParser } from 'fast-xml-parser'
import katex from 'katex'
import 'katex/contrib/mhchem'
import temml from 'temml'
import { describe, expect, it } from 'vitest'
import { typeset } from '../../core/maths/typeset'
import { CHART } from './lineChart'

type Node = Record<string, unknown>
const parser = new XMLParser({ preserveOrder: true, ignoreAttributes: true, trimValues: false, parseTagValue: false })
const SILENT = new Set(['annotation', 'mphantom', 'mspace'])

/** A formula in MathML as one line of signs, however its author grouped them. */
function shape(mathml: string): string {
  const all = (nodes: Node[]): string => nodes.map(one).join('')
  function one(node: Node): string {
    const tag = Object.keys(node).find(k => k !== ':@')!
    if (tag === '#text') return String(node['#text'])
    if (SILENT.has(tag)) return ''
    const children = (node[tag] as Node[]).filter(
      c => Object.keys(c)[0] !== '#text' || String(c['#text']).trim() || /^m(text|o|i|n)$/.test(tag),
    )
    const of = (i: number) => (children[i] ? one(children[i]!) : '')
    switch (tag) {
      case 'mfrac':
        return `(${of(0)})/(${of(1)})`
      case 'msqrt':
        return `√(${all(children)})`
      case 'mroot':
        return `√[${of(1)}](${of(0)})`
      case 'msup':
        return of(1).includes('′') ? of(0) + of(1) : `${of(0)}^{${of(1)}}`
      case 'msub':
      case 'munder':
        return `${of(0)}_{${of(1)}}`
      case 'mover':
        return `over(${of(0)},${of(1)})`
      case 'msubsup':
      case 'munderover':
        return `${of(0)}_{${of(1)}}^{${of(2)}}`
      case 'mtr':
        return `${children.map(one).join('&')};`
      default:
        return all(children)
    }
  }
  const plain = mathml.replace(/&#x([0-9a-f]+);/gi, (_, hex: string) => String.fromCodePoint(Number.parseInt(hex, 16)))
  return all(parser.parse(plain) as Node[])
    .normalize('NFKD')
    .replace(/[\s\u2061\u2062\u2063\u200b\u00a0]/g, '')
    .replace(/[−‐]/g, '-')
    .replace(/∣|ǀ/g, '|')
    .replace(/over\(([→⟶⇌]),\)/g, '$1')
    .replace(/[→⟶]/g, '→')
    .replace(/⃗/g, '→')
    .replace(/¯|ˉ|‾|\u0304|\u0305/g, '¯')
    .replace(/[′’]/g, "'")
    .replace(/_\{\}|\^\{\}/g, '')
}
const ofKatex = (latex: string) =>
  shape(/<math[\s\S]*<\/math>/.exec(katex.renderToString(latex, { output: 'mathml' }))![0])
const ofTemml = (latex: string) => shape(temml.renderToString(latex))

describe('a typed line', () => {
  it('has a chart of at least 150 inputs', () => {
    expect(new Set(CHART.map(([typed]) => typed)).size).toBeGreaterThanOrEqual(150)
  })
  // Two parsers of LaTeX that share no code with the one in use: KaTeX and Temml, both of which give MathML (W3C).
  it.each(CHART)('%s is what a book sets as %s', async (typed, latex) => {
    const own = shape((await typeset(typed, 'mixed')).mathml)
    expect(own).toBe(ofKatex(latex))
    // Temml stacks the numbers of isotopes in another way.
    if (!latex.includes('^{14}_{6}')) expect(own).toBe(ofTemml(latex))
  })
})
