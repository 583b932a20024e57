/** Elements of MathML Core (W3C) that a typed line can be made of. */
export const MATHML_ELEMENTS: ReadonlySet<string> = new Set([
  'math',
  'mrow',
  'mi',
  'mn',
  'mo',
  'mtext',
  'mspace',
  'mfrac',
  'msqrt',
  'mroot',
  'msup',
  'msub',
  'msubsup',
  'mover',
  'munder',
  'munderover',
  'mstyle',
  'mpadded',
  'menclose',
  'mtable',
  'mtr',
  'mtd',
])

const TAG = /<(\/?)([a-z]+)([^<>]*?)(\/?)>/g
const COLOUR = /\smathcolor="(#[0-9a-fA-F]{6})"/

/**
 * MathML that may stand in any page: known elements and their text, of attributes the colour alone. A file from elsewhere
 * may bring others.
 * @returns null when it is no MathML, has other elements, or is not closed as it was opened
 */
export function plainMathml(mathml: string): string | null {
  const open: string[] = []
  let isKnown = true
  const plain = mathml.trim().replace(TAG, (_, end: string, name: string, attributes: string, closed: string) => {
    isKnown &&= MATHML_ELEMENTS.has(name)
    if (end) isKnown &&= open.pop() === name
    else if (!closed) open.push(name)
    const colour = COLOUR.exec(attributes)?.[1]
    return end ? `</${name}>` : `<${name}${colour ? ` mathcolor="${colour}"` : ''}${closed ? '/' : ''}>`
  })
  const bare = plain.replace(/<\/?[a-z]+(?: mathcolor="#[0-9a-fA-F]{6}")?\/?>/g, '')
  if (!isKnown || open.length || /[<>]/.test(bare) || !/^<math>[^]*<\/math>$/.test(plain)) return null
  return plain
}
