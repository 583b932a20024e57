import Decimal from 'decimal.js'
import Fraction from 'fraction.js'
import nerdamer from 'nerdamer-prime/all'
import type { GuideKind, GuideLayout } from '../../../core/guides'
import { fractionOf, textsOf, type Maker } from './general'

Decimal.set({ precision: 200 })
const whole = (random: () => number, most: number, least = 0) => least + Math.floor(random() * (most - least + 1))
const pick = <T>(random: () => number, all: readonly T[]): T => all[Math.floor(random() * all.length)]!
const decimal = (random: () => number) => `${whole(random, 9999)}${random() < 0.5 ? `.${whole(random, 999)}` : ''}`
const bare = (text: string) => text.replace(/[ ']/g, '').replace(/,(?=\d{3}(?!\d))/g, '')
const fractionText = (random: () => number) => {
  const d = whole(random, 12, 2)
  return random() < 0.3 ? `${whole(random, 4)} ${whole(random, d - 1, 1)}/${d}` : `${whole(random, d, 1)}/${d}`
}
const signed = (random: () => number, text: string) => (random() < 0.3 ? `-${text}` : text)
const expect = (holds: boolean, fault: string) => (holds ? [] : [fault])

/** The number in a row of squares once all is written. */
function inRow(layout: GuideLayout, row: number): string {
  const cells = [...layout.given, ...layout.moves.flatMap(m => m.cells)]
  const here = cells.filter(c => c.row === row && !c.small && !c.strike && !c.line && /^[\d.,−]+$/.test(c.text))
  const digits = here.filter(c => c.wide !== 0).sort((a, b) => a.col - b.col)
  const point = here.filter(c => c.wide === 0 && c.text === '.').at(-1)
  return digits.map(c => (point?.col === c.col ? '.' : '') + c.text.replace('−', '-')).join('')
}
const grouped = (random: () => number) => {
  const n = whole(random, 9_999_999).toString()
  const sign = pick(random, [',', ' ', ''])
  return n.replace(/\B(?=(\d{3})+(?!\d))/g, sign)
}
const operand = (random: () => number) => (random() < 0.4 ? grouped(random) : decimal(random))

function add(random: () => number) {
  const numbers = Array.from({ length: whole(random, 12, 2) }, () => operand(random))
  return {
    text: numbers.join(' + '),
    check: (layout: GuideLayout) => {
      const sum = Decimal.sum(...numbers.map(bare))
      return [
        ...expect(
          new Decimal(inRow(layout, layout.rows - 1)).eq(sum),
          `the sum is ${sum}, not ${inRow(layout, layout.rows - 1)}`,
        ),
        ...numbers.flatMap((n, i) =>
          expect(new Decimal(inRow(layout, i + 1)).eq(bare(n)), `${n} is written as ${inRow(layout, i + 1)}`),
        ),
      ]
    },
  }
}

function subtract(random: () => number) {
  const [a, b] = [operand(random), operand(random)]
  return {
    text: `${a} ${pick(random, ['-', '−', '–'])} ${b}`,
    check: (layout: GuideLayout) => {
      const difference = new Decimal(bare(a)).sub(bare(b))
      return expect(
        new Decimal(inRow(layout, 4)).eq(difference),
        `the difference is ${difference}, not ${inRow(layout, 4)}`,
      )
    },
  }
}

function multiply(random: () => number) {
  const [a, b] = [operand(random), random() < 0.5 ? whole(random, 9999).toString() : operand(random)]
  return {
    text: `${a} ${pick(random, ['*', '×', 'x', '·'])} ${b}`,
    check: (layout: GuideLayout) => {
      const product = new Decimal(bare(a)).mul(bare(b))
      const row = inRow(layout, layout.rows - 1)
      return expect(new Decimal(row).eq(product), `the product is ${product}, not ${row}`)
    },
  }
}

function divide(random: () => number) {
  const ending = pick(random, ['', ' with remainder', ' to 2 places', ' to 0 places', ' to 5 places'])
  const isWhole = ending === ' with remainder' || ending === ''
  const [a, b] = isWhole
    ? [whole(random, 999_999).toString(), whole(random, 999, 1).toString()]
    : [decimal(random), decimal(random)]
  const text = random() < 0.5 ? `${a} : ${b}${ending}` : `${b} into ${a}${ending}`
  if (new Decimal(b).isZero()) return divide(random)
  return {
    text,
    check: (layout: GuideLayout) => {
      const quotient = new Decimal(a).div(b)
      const last = layout.moves.at(-1)!
      if (isWhole) {
        const rest = BigInt(a) % BigInt(b)
        const shown = layout.moves
          .flatMap(m => m.cells)
          .filter(c => c.row === 0 && /^\d$/.test(c.text))
          .map(c => c.text)
          .join('')
        return [
          ...expect(BigInt(shown) === BigInt(a) / BigInt(b), `the quotient is ${BigInt(a) / BigInt(b)}, not ${shown}`),
          ...expect(
            last.say === (rest ? `${rest} is left over` : 'Nothing is left over'),
            `${rest} is left, said: ${last.say}`,
          ),
        ]
      }
      const places = Number(/\d/.exec(ending)![0])
      const shown = last.cells.at(-1)!.text
      const rounded = quotient.toDecimalPlaces(places, Decimal.ROUND_HALF_UP)
      return [
        ...expect(new Decimal(shown.replace(/[≈=] /, '')).eq(rounded), `rounded it is ${rounded}, not ${shown}`),
        ...expect(shown.startsWith('=') === quotient.eq(rounded), `${shown} says wrongly whether it is exact`),
      ]
    },
  }
}

function placeValue(random: () => number) {
  const number = `${whole(random, 999)}.${whole(random, 99, 1)}`
  const power = whole(random, 3, 1)
  const times = random() < 0.5
  return {
    text: `${number} ${times ? '*' : ':'} 1${'0'.repeat(power)}`,
    check: (layout: GuideLayout) => {
      const result = times ? new Decimal(number).mul(10 ** power) : new Decimal(number).div(10 ** power)
      return expect(new Decimal(inRow(layout, 2)).eq(result), `the result is ${result}, not ${inRow(layout, 2)}`)
    },
  }
}

const polynomial = (random: () => number, letters: string) =>
  Array.from({ length: whole(random, 4, 1) }, (_, i) => {
    const size = whole(random, 9, 1)
    const letter = pick(random, ['', ...letters, `${letters[0]}^2`])
    return `${random() < 0.4 ? '-' : i ? '+' : ''}${size === 1 && letter ? '' : size}${letter}`
  }).join(' ')
// Left to itself, it gives up after 0.8 s, which a busy machine may need.
nerdamer.set('TIMEOUT', 60_000)

/** What nerdamer (a computer-algebra system) makes of an expression, less another: 0 where they are the same. */
const difference = (a: string, b: string) => nerdamer(`expand((${a})-(${b}))`).toString()
const forCas = (text: string) =>
  text
    .replace(/−/g, '-')
    .replace(/(\d|\))(?=[a-z(])/g, '$1*')
    .replace(/([a-z])(?=[a-z(])/g, '$1*')

function area(random: () => number) {
  if (random() < 0.4) {
    const [a, b] = [decimal(random), decimal(random)]
    return {
      text: `${a} * ${b}`,
      check: (layout: GuideLayout) => {
        const total = layout.moves.at(-1)!.cells[0]!.text
        return expect(new Decimal(total).eq(new Decimal(a).mul(b)), `the whole is not ${total}`)
      },
    }
  }
  const [a, b] = [polynomial(random, 'xy'), polynomial(random, 'xa')]
  return {
    text: `(${a})(${b})`,
    check: (layout: GuideLayout) => {
      const total = layout.moves.at(-1)!.cells[0]!.text.replace(/^= /, '')
      return expect(difference(`(${forCas(a)})*(${forCas(b)})`, forCas(total)) === '0', `the product is not ${total}`)
    },
  }
}

function equation(random: () => number) {
  const side = () =>
    pick(random, [
      () => `${whole(random, 9, 1)}x ${pick(random, ['+', '-'])} ${whole(random, 20)}`,
      () => `${whole(random, 5, 1)}(x ${pick(random, ['+', '-'])} ${whole(random, 9)})`,
      () => `x/${whole(random, 6, 2)} + ${whole(random, 9)}`,
      () => `(x - ${whole(random, 9)})/${whole(random, 6, 2)}`,
      () => `${whole(random, 20)} - ${whole(random, 9, 1)}x`,
      () => `${whole(random, 30)}`,
    ])()
  const [left, right] = [`${side()}`, side()]
  const sign = pick(random, ['=', '=', '<', '>=', '≤'])
  const text = `${left.includes('x') ? left : `x + ${left}`} ${sign} ${right}`
  return { text, check: (layout: GuideLayout) => equationFaults(text, layout) }
}

/** Every line has the same solution as the first, and what is read off at the end is it. */
function equationFaults(text: string, layout: GuideLayout): string[] {
  const parts = /^(.*?)\s*(=|<=?|>=?|≤|≥)\s*(.*)$/.exec(text)!
  const solution = (l: string, r: string): Fraction | null => {
    // a x + b = 0, its coefficients by the computer-algebra system.
    const e = `(${forCas(l)})-(${forCas(r)})`
    const at = (x: number) =>
      new Fraction(
        nerdamer(e, { x: String(x) })
          .evaluate()
          .toString(),
      )
    const b = at(0),
      a = at(1).sub(b)
    return a.equals(0) ? null : b.div(a).neg()
  }
  const first = solution(parts[1]!, parts[3]!)
  const faults: string[] = []
  for (const move of layout.moves) {
    const cells = move.cells.filter(c => c.role !== 'carry')
    if (cells.length !== 3) continue
    const here = solution(cells[0]!.text, cells[2]!.text)
    const same = first === null ? here === null : here !== null && here.equals(first)
    if (!same) faults.push(`${cells.map(c => c.text).join(' ')} has another solution`)
  }
  const last = layout.moves.at(-1)
  const answer = last?.cells.filter(c => c.role === 'answer').map(c => c.text) ?? []
  if (first && answer[0] === 'x') {
    if (!fractionOf(answer[2]!).equals(first)) faults.push(`the end is ${answer.join(' ')}, not ${first.toFraction()}`)
    if (/[<>≤≥]/.test(answer[1]!)) {
      const holds = (x: Fraction) => {
        const v = (s: string) => Number(nerdamer(forCas(s), { x: x.toFraction() }).evaluate().text('decimals'))
        const [l, r] = [v(parts[1]!), v(parts[3]!)]
        return parts[2]!.startsWith('<') || parts[2] === '≤' ? l < r : l > r
      }
      const above = /[>≥]/.test(answer[1]!)
      if (holds(first.add(1)) !== above) faults.push(`the sign of ${answer.join(' ')} is turned`)
    }
  } else if (first) faults.push('it is not solved')
  return faults
}

function numberLine(random: () => number) {
  const at = () =>
    signed(
      random,
      pick(random, [
        () => String(whole(random, 12)),
        () => fractionText(random),
        () => `${whole(random, 9)}.${whole(random, 9, 1)}`,
      ])(),
    )
  const sign = () => pick(random, ['<', '<=', '≤', '>', '>=', '=>'])
  const [a, b] = [at(), at()].sort((p, q) => fractionOf(p).compare(fractionOf(q))) as [string, string]
  const kind = whole(random, 4)
  const text =
    kind === 0
      ? `x ${sign()} ${a}`
      : kind === 1
        ? `${a} ${sign()} x`
        : kind === 2 && !fractionOf(a).equals(fractionOf(b))
          ? `${a} < x <= ${b}`
          : kind === 3
            ? `x < ${a} or x > ${b}`
            : `${a}; ${b}`
  const typed = kind === 0 || kind === 1 ? [a] : [a, b]
  return {
    text,
    check: (layout: GuideLayout) => {
      // Where labels stand tells what the places mean: two of them give the scale.
      const labels = layout.given.map(c => ({ x: c.col + 0.5, v: fractionOf(c.text).valueOf() }))
      const [p, q] = [labels[0]!, labels.at(-1)!]
      const valueAt = (x: number) => p.v + ((x - p.x) / (q.x - p.x)) * (q.v - p.v)
      const dots = layout.moves.flatMap(m => m.cells).filter(c => c.text === 'open' || c.text === 'closed')
      const values = dots.map(d => valueAt(d.line![0]!))
      return [
        ...expect(dots.length === typed.length, `${dots.length} places for ${typed.length} numbers`),
        ...typed.flatMap(t =>
          expect(
            values.some(v => Math.abs(v - fractionOf(t).valueOf()) < 1e-6),
            `${t} is not on the line`,
          ),
        ),
        ...labels.flatMap(l =>
          expect(Math.abs(valueAt(l.x) - l.v) < 1e-6, `the label ${l.v} stands at ${valueAt(l.x)}`),
        ),
      ]
    },
  }
}

function bars(kind: 'whole' | 'equal' | 'compare' | 'fraction'): Maker {
  return random => {
    const [a, b] = [whole(random, 99, 1), whole(random, 24, 1)]
    const percent = whole(random, 100, 1)
    const parts = Array.from({ length: whole(random, 6, 1) }, () => whole(random, 60, 1))
    const d = whole(random, 24, 1),
      n = whole(random, d, 1)
    const made = {
      whole: { text: parts.join(' + '), result: new Fraction(parts.reduce((s, p) => s + p, 0)) },
      equal: { text: `${a} in ${b}`, result: new Fraction(a).div(b) },
      compare: { text: `${a} and ${b}`, result: new Fraction(a).sub(b).abs() },
      fraction:
        random() < 0.5
          ? { text: `${n}/${d} of ${a}`, result: new Fraction(a).mul(n).div(d) }
          : { text: `${percent}% of ${a}`, result: new Fraction(a).mul(percent).div(100) },
    }[kind]
    return {
      text: made.text,
      check: layout =>
        expect(
          fractionOf(layout.moves.at(-1)!.cells.at(-1)!.text.replace(/^.*= /, '')).equals(made.result),
          `the result is ${made.result.toFraction()}`,
        ),
    }
  }
}

function units(random: () => number) {
  const names = ['Ana', 'Ben', 'Cora', 'Dev'].slice(0, whole(random, 4, 2))
  const of = names.map(() => whole(random, 12, 1))
  const one = new Fraction(whole(random, 40, 1)).div(whole(random, 4, 1))
  const known = pick(random, ['total', 'bar', 'difference'] as const)
  const sum = of.reduce((a, b) => a + b, 0)
  const spread = Math.max(...of) - Math.min(...of)
  if (known === 'difference' && !spread) return units(random)
  const said = {
    total: `total ${one.mul(sum).toFraction()}`,
    bar: `${names[0]} = ${one.mul(of[0]!).toFraction()}`,
    difference: `difference ${one.mul(spread).toFraction()}`,
  }[known]
  return {
    text: `${names.map((n, i) => `${n} ${of[i]}`).join(', ')}; ${said}`,
    check: (layout: GuideLayout) =>
      names.flatMap((n, i) => {
        if (known === 'bar' && i === 0) return []
        const move = layout.moves.find(m => m.say.startsWith(`${n}: `))
        return expect(
          move !== undefined && fractionOf(move.cells[0]!.text).equals(one.mul(of[i]!)),
          `${n} is not ${one.mul(of[i]!).toFraction()}`,
        )
      }),
  }
}

function ratio(random: () => number) {
  const first = Array.from({ length: whole(random, 3, 2) }, () => whole(random, 12, 1))
  const factors = Array.from({ length: whole(random, 4, 1) }, () => whole(random, 9, 1))
  const known = factors.map(() => whole(random, first.length - 1))
  const columns = factors.map((f, k) => first.map((v, i) => (i === known[k] ? String(v * f) : '?')).join(' : '))
  return {
    text: [first.join(' : '), ...columns].join(' = '),
    check: (layout: GuideLayout) => {
      const answers = layout.moves
        .flatMap(m => m.cells)
        .filter(c => c.role === 'answer')
        .map(c => c.text)
      const wanted = factors.flatMap((f, k) => first.flatMap((v, i) => (i === known[k] ? [] : [String(v * f)])))
      return expect(answers.join() === wanted.join(), `filled in ${answers.join()}, not ${wanted.join()}`)
    },
  }
}

function strips(random: () => number) {
  const all = Array.from({ length: whole(random, 4, 2) }, () => {
    const d = whole(random, 8, 2)
    return `${whole(random, d + 1, 1)}/${d}`
  })
  const sum = all.map(fractionOf).reduce((a, b) => a.add(b))
  const common = all.map(t => BigInt(t.split('/')[1]!)).reduce((a, b) => (a * b) / gcd(a, b))
  // More is refused with a word.
  if (sum.compare(6) > 0 || common > 240n) return strips(random)
  const added = random() < 0.6
  return {
    text: all.join(added ? ' + ' : ', '),
    check: (layout: GuideLayout) => [
      ...all.flatMap((f, i) => {
        const whole18 =
          18 / Math.max(1, Math.ceil(added ? sum.valueOf() : Math.max(...all.map(t => fractionOf(t).valueOf()))))
        return expect(
          Math.abs(layout.areas![i]!.w / whole18 - fractionOf(f).valueOf()) < 1e-9,
          `${f} is not as long as it is`,
        )
      }),
      ...(added
        ? expect(
            fractionOf(layout.moves.at(-1)!.cells.at(-1)!.text.replace('= ', '')).equals(sum),
            `the sum is ${sum.toFraction(true)}`,
          )
        : []),
    ],
  }
}

const gcd = (a: bigint, b: bigint): bigint => (b ? gcd(b, a % b) : a)
function factors(random: () => number) {
  const numbers = Array.from({ length: whole(random, 3, 2) }, () => BigInt(whole(random, 2000, 2)))
  const want = pick(random, ['', 'HCF of ', 'lcm ', 'hcf and lcm of ', 'tree '])
  const common = numbers.reduce(gcd),
    multiple = numbers.reduce((a, b) => (a * b) / gcd(a, b))
  return {
    text: want + numbers.join(', '),
    check: (layout: GuideLayout) => {
      const texts = layout.moves.map(m => m.say)
      return [
        ...(/hcf/i.test(want)
          ? expect(
              texts.some(t => t.startsWith('HCF = ') && t.endsWith(` ${common}`)),
              `the HCF is ${common}`,
            )
          : []),
        ...(/lcm/i.test(want)
          ? expect(
              texts.some(t => t.startsWith('LCM = ') && t.endsWith(` ${multiple}`)),
              `the LCM is ${multiple}`,
            )
          : []),
        ...numbers.flatMap(n => expect(textsOf(layout).includes(String(n)), `${n} is not there`)),
      ]
    },
  }
}

function values(random: () => number) {
  const rule = pick(random, ['x^2 - 3', '2x + 1', '1/x', 'x^3', '3 - x/2', '(x + 1)(x - 2)', 'x^-1 + 2', '12/(x - 1)'])
  const from = whole(random, 6) - 6,
    to = from + whole(random, 9, 1)
  return {
    text: `${rule} for ${from} to ${to}`,
    check: (layout: GuideLayout) =>
      Array.from({ length: to - from + 1 }, (_, i) => from + i).flatMap((x, i) => {
        const shown = layout.moves[i]!.cells[0]!.text
        let value: Fraction | null = null
        try {
          value = new Fraction(
            nerdamer(forCas(rule), { x: String(x) })
              .evaluate()
              .toString(),
          )
        } catch {
          // Divided by zero.
        }
        return expect(
          value ? shown !== '–' && fractionOf(shown).equals(value) : shown === '–',
          `at ${x} it is ${value?.toFraction() ?? 'undefined'}, not ${shown}`,
        )
      }),
  }
}

function axes(random: () => number) {
  const [w, h] = [whole(random, 10, 1), whole(random, 10, 1)]
  const points = Array.from({ length: whole(random, 5, 1) }, () => [whole(random, 2 * w) - w, whole(random, 2 * h) - h])
  return {
    text: `x -${w} to ${w}, y -${h} to ${h} by ${pick(random, [1, 0.5])}; ${points.map(p => `(${p[0]}, ${p[1]})`).join(' ')}`,
    check: (layout: GuideLayout) =>
      points.flatMap((p, i) => {
        const { line } = layout.moves[i]!.cells[0]!
        const x = (line![0]! + line![2]!) / 2,
          y = (line![1]! + line![3]!) / 2
        return expect(
          Math.abs(((x - 1) / (layout.cols - 2)) * 2 * w - w - p[0]!) < 1e-6 &&
            Math.abs(h - ((y - 1) / (layout.rows - 2)) * 2 * h - p[1]!) < 1e-6,
          `the point ${p.join()} is elsewhere`,
        )
      }),
  }
}

/** All ways to match items that fit the clues, found by trying every one of them. */
function elimination(random: () => number) {
  const size = whole(random, 4, 3)
  const categories = ['ABCD', 'pqrs', 'WXYZ'].slice(0, whole(random, 3, 2)).map(c => [...c.slice(0, size)])
  const orders = (n: number): number[][] =>
    n ? orders(n - 1).flatMap(o => Array.from({ length: n }, (_, i) => [...o.slice(0, i), n - 1, ...o.slice(i)])) : [[]]
  const truth = categories.slice(1).map(() => pick(random, orders(size)))
  const index = (c: number, i: number) => (c ? truth[c - 1]!.indexOf(i) : i)
  const clues = Array.from({ length: whole(random, 6, 1) }, () => {
    const [c, d] = random() < 0.5 || categories.length < 3 ? [0, whole(random, categories.length - 1, 1)] : [1, 2]
    const [i, j] = [whole(random, size - 1), whole(random, size - 1)]
    return { c, d, i, j, is: index(c, i) === index(d, j) }
  })
  const fits = (others: number[][]) =>
    clues.every(k => ((k.c ? others[k.c - 1]!.indexOf(k.i) : k.i) === others[k.d - 1]!.indexOf(k.j)) === k.is)
  const all =
    categories.length === 2 ? orders(size).map(o => [o]) : orders(size).flatMap(o => orders(size).map(p => [o, p]))
  const solutions = all.filter(fits)
  return {
    text: `${categories.map(c => c.join(', ')).join(' | ')}; ${clues.map(k => `${categories[k.c]![k.i]} ${k.is ? '=' : 'not'} ${categories[k.d]![k.j]}`).join('; ')}`,
    check: (layout: GuideLayout) =>
      layout.moves.flatMap(m => {
        const only = /^Only (\w) is left for (\w)$/.exec(m.say)
        if (!only) return []
        const place = (t: string): [number, number] => {
          const c = categories.findIndex(x => x.includes(t))
          return [c, categories[c]!.indexOf(t)]
        }
        const [[c, i], [d, j]] = [place(only[1]!), place(only[2]!)]
        const at = (s: number[][], k: number, n: number) => (k ? s[k - 1]!.indexOf(n) : n)
        return expect(
          solutions.every(s => at(s, c, i) === at(s, d, j)),
          `${m.say}, but it need not be`,
        )
      }),
  }
}

/** Generated inputs of every guide. */
export const MAKERS: Record<GuideKind, Maker> = {
  add,
  subtract,
  multiply,
  divide,
  placeValue,
  area,
  equation,
  numberLine,
  whole: bars('whole'),
  equal: bars('equal'),
  compare: bars('compare'),
  fraction: bars('fraction'),
  units,
  ratio,
  strips,
  factors,
  values,
  axes,
  elimination,
}
