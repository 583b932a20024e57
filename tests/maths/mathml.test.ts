import { describe, expect, it } from 'vitest'
import { parseFragment, type DefaultTreeAdapterMap } from 'parse5'
import { MATHML_ELEMENTS, plainMathml } from '../../core/maths'
import { typeset } from '../../core/maths/typeset'

type Element = DefaultTreeAdapterMap['element']
/** All elements and attributes that a browser makes of it (parse5 follows the HTML standard's parsing). */
function read(markup: string): { names: string[]; attributes: string[]; text: string } {
  const out = { names: [] as string[], attributes: [] as string[], text: '' }
  const walk = (nodes: readonly Element[]) => {
    for (const node of nodes) {
      if (node.nodeName === '#text') out.text += (node as unknown as { value: string }).value
      if (!node.tagName) continue
      out.names.push(node.tagName)
      out.attributes.push(...node.attrs.map(a => a.name))
      walk(node.childNodes as Element[])
    }
  }
  walk(parseFragment(markup).childNodes as Element[])
  return out
}

describe('typed maths as MathML in a page', () => {
  it.each([
    ['@4(x = 24) " litres"', 'maths', 'x=24 litres'],
    ['a = 3.52 m/s^2', 'mixed', 'a = 3.52 m/s'],
    ['sqrt(2)/3 < x', 'maths', '2'],
    ['\\frac{1}{2} & 3', 'latex', '1'],
    ['if a < b & c > d', 'words', 'if'],
  ] as const)('of %s (%s) keeps its signs, and has known elements only', async (source, notation, said) => {
    const set = await typeset(source, notation).catch(() => null)
    if (!set) return expect(notation).toBe('latex')
    const plain = plainMathml(set.mathml)
    expect(plain).not.toBeNull()
    const { names, attributes, text } = read(plain!)
    expect(names.filter(n => !MATHML_ELEMENTS.has(n))).toEqual([])
    expect(attributes.filter(a => a !== 'mathcolor')).toEqual([])
    expect(text.replace(/[\s\u00a0\u2061\u2062]/g, '')).toContain(said.replace(/\s/g, ''))
    if (source.startsWith('@4')) expect(attributes).toContain('mathcolor')
  })
  it.each([
    '<math><script>alert(1)</script></math>',
    '<math><mi href="javascript:x">x</mi><img src=x onerror=alert(1)></math>',
    '<math><mi>x</math>',
    '<math><mi>x</mi></math><b>y</b>',
    '<mi>x</mi>',
    '<math><mi>a<!-- b --></mi></math>',
    '<math><mi>x</mi >y></math>',
    '<math><MI>x</MI></math>',
    'x',
    '',
  ])('refuses %s', hostile => expect(plainMathml(hostile)).toBeNull())
  it('leaves out what it does not know of a known element', () => {
    expect(
      plainMathml(
        '<math xmlns="x" onclick="y"><mi style="color:red" mathcolor="#aa0000">x</mi><mspace width="1em"/></math>',
      ),
    ).toBe('<math><mi mathcolor="#aa0000">x</mi><mspace/></math>')
  })
})
