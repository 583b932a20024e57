import { readNumeral, plainSigns } from '../numbers/read'
import { Trouble } from '../folio/trouble'
import { fraction, type Fraction } from './exact'

/** A piece of what was typed, and where it stands in it: from the first character up to, not with, the last. */
export interface Token {
  kind: 'number' | 'letter' | 'sign'
  text: string
  from: number
  to: number
}

/** Typed maths as a tree. Every node knows where it stands in what was typed. */
export type Tree = { from: number; to: number } & (
  | { kind: 'number'; value: Fraction }
  | { kind: 'letter'; name: string }
  | { kind: 'negative' | 'root'; of: Tree }
  | { kind: 'sum' | 'difference' | 'product' | 'quotient'; left: Tree; right: Tree }
  | { kind: 'power'; base: Tree; exponent: number }
)

/** @throws Trouble `expression-unclear` says it */
export const unclear = (text: string, why: string) =>
  new Trouble(
    'expression-unclear',
    `“${text.slice(0, 60)}” cannot be worked out: ${why}.`,
    'What you typed is still there.',
    'Type it with + − * / ^, brackets, numbers and one letter, for example 3x − 4.',
  )

/** The kinds of signs that mean the same, one for one, so that places stay. */
const SIGNS: Record<string, string> = { '×': '*', '·': '*', '÷': '/' }

/**
 * Numbers, letters and signs of a typed expression, without the spaces between them.
 * @throws Trouble `expression-unclear` at the first character that is none of them
 * @example tokensOf('3,5x − 4').map(t => t.text) // ['3,5', 'x', '-', '4']
 */
export function tokensOf(text: string): Token[] {
  const plain = plainSigns(text).replace(/[×·÷]/g, sign => SIGNS[sign]!)
  const tokens: Token[] = []
  for (let at = 0; at < plain.length; ) {
    const rest = plain.slice(at)
    if (rest.startsWith('sqrt')) {
      tokens.push({ kind: 'sign', text: '√', from: at, to: at + 4 })
      at += 4
      continue
    }
    const hit = /^(?:(\s+)|(\d+(?:[.,]\d+)*|[.,]\d+)|([a-z])|([⁰¹²³⁴⁵⁶⁷⁸⁹]+)|(√|[-+*/^()]))/i.exec(rest)
    if (!hit) throw unclear(text, `“${rest[0]}” is not expected there`)
    const [all, space, number, letter, raised] = hit
    const to = at + all.length
    if (raised) {
      const power = [...raised].map(c => '⁰¹²³⁴⁵⁶⁷⁸⁹'.indexOf(c)).join('')
      tokens.push({ kind: 'sign', text: '^', from: at, to }, { kind: 'number', text: power, from: at, to })
      at = to
      continue
    }
    if (!space) tokens.push({ kind: number ? 'number' : letter ? 'letter' : 'sign', text: all, from: at, to })
    at = to
  }
  return tokens
}

/**
 * Reads + − * / ^, brackets, numbers and letters; a number before a letter or bracket multiplies it.
 * @throws Trouble `expression-unclear`: nothing is guessed or left over
 * @example treeOf('3(x − 4)') // a product of 3 and a difference
 */
export function treeOf(text: string): Tree {
  const reader = new TreeReader(text, tokensOf(text))
  const tree = reader.sum()
  reader.end()
  return tree
}

class TreeReader {
  private i = 0
  constructor(
    private readonly text: string,
    private readonly tokens: readonly Token[],
  ) {}

  private get next(): Token | undefined {
    return this.tokens[this.i]
  }
  private is(...signs: string[]): boolean {
    return this.next?.kind === 'sign' && signs.includes(this.next.text)
  }
  private take(): Token {
    const { next } = this
    if (!next) throw unclear(this.text, 'something is missing at the end')
    this.i++
    return next
  }

  end(): void {
    if (this.next) throw unclear(this.text, `“${this.next.text[0]}” is not expected there`)
  }

  sum(): Tree {
    let left = this.product()
    while (this.is('+', '-')) {
      const kind = this.take().text === '+' ? 'sum' : 'difference'
      const right = this.product()
      left = { kind, left, right, from: left.from, to: right.to }
    }
    return left
  }

  private product(): Tree {
    let left = this.signed()
    for (;;) {
      const sign = this.is('*', '/') ? this.take().text : null
      if (!sign && !this.is('(', '√') && this.next?.kind !== 'letter') return left
      const right = sign ? this.signed() : this.power()
      left = { kind: sign === '/' ? 'quotient' : 'product', left, right, from: left.from, to: right.to }
    }
  }

  private signed(): Tree {
    if (!this.is('+', '-')) return this.power()
    const sign = this.take()
    const of = this.signed()
    return sign.text === '+' ? of : { kind: 'negative', of, from: sign.from, to: of.to }
  }

  private power(): Tree {
    const base = this.atom()
    if (!this.is('^')) return base
    this.take()
    const bracket = this.is('(') ? this.take() : null
    const sign = this.is('-') ? this.take() : null
    const exponent = this.next
    if (exponent?.kind !== 'number' || !/^\d{1,2}$/.test(exponent.text)) throw this.badPower()
    let { to } = this.take()
    if (bracket) {
      if (!this.is(')')) throw this.badPower()
      ;({ to } = this.take())
    }
    return { kind: 'power', base, exponent: (sign ? -1 : 1) * Number(exponent.text), from: base.from, to }
  }
  private badPower() {
    return unclear(this.text, 'a power must be a small whole number')
  }

  private atom(): Tree {
    const token = this.take()
    const { from, to } = token
    if (token.kind === 'letter') return { kind: 'letter', name: token.text, from, to }
    if (token.kind === 'number') {
      const numeral = readNumeral(token.text)
      if (!numeral) throw unclear(this.text, `“${token.text}” is not a number`)
      return { kind: 'number', value: fraction(numeral.n, numeral.d), from, to }
    }
    if (token.text === '√') {
      const of = this.power()
      return { kind: 'root', of, from, to: of.to }
    }
    if (token.text !== '(') throw unclear(this.text, `“${token.text}” is not expected there`)
    const inner = this.sum()
    if (!this.is(')')) throw unclear(this.text, 'a bracket is not closed')
    return { ...inner, from, to: this.take().to }
  }
}

/** Arithmetic that a tree can be worked out in. */
export interface Arithmetic<V> {
  of(f: Fraction): V
  letter(name: string): V
  add(a: V, b: V): V
  subtract(a: V, b: V): V
  multiply(a: V, b: V): V
  divide(a: V, b: V): V
  /** @param n whole, also negative */
  power(a: V, n: number): V
  /** Square root; left out where there is none. */ root?(a: V): V
}

/** Works a tree out, from its leaves up. */
export function workOut<V>(tree: Tree, on: Arithmetic<V>): V {
  const value = (t: Tree): V => workOut(t, on)
  switch (tree.kind) {
    case 'number':
      return on.of(tree.value)
    case 'letter':
      return on.letter(tree.name)
    case 'negative':
      return on.subtract(on.of(fraction(0n)), value(tree.of))
    case 'sum':
      return on.add(value(tree.left), value(tree.right))
    case 'difference':
      return on.subtract(value(tree.left), value(tree.right))
    case 'product':
      return on.multiply(value(tree.left), value(tree.right))
    case 'quotient':
      return on.divide(value(tree.left), value(tree.right))
    case 'root':
      if (!on.root) throw unclear('√', 'a root cannot be worked with here')
      return on.root(value(tree.of))
    case 'power':
      return on.power(value(tree.base), tree.exponent)
    default:
      return tree satisfies never
  }
}
