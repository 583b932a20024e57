import { romanValue } from '../folio/counting'
import type { Word } from './model'
import { QUESTION_WORDS } from './vocabulary'

/** What kind of count a label belongs to. */
export type Count = 'number' | 'dotted' | 'deep' | 'upper' | 'lower' | 'romanUpper' | 'romanLower'

/**
 * A label as it is printed: its count, how it is dressed ("." ")" "()" "word" "Q" "" …), its value and what to print
 * for it.
 */
export interface Label {
  count: Count
  dress: string
  value: number
  major: number
  text: string
}

/**
 * Labels at one place; one sign can be read in more than one way ("i" is a letter and a Roman one). `words` is how many
 * words it takes.
 */
export interface Reading {
  labels: Label[]
  words: number
}

const CYRILLIC = 'абвгдежзиклмн',
  GREEK = 'αβγδεζηθ'
/** 1 for a, 2 for b…; 0 for what is not a single letter that is used to count. */
export function letterValue(text: string): number {
  const c = text.toLowerCase()
  if (/^[a-z]$/.test(c)) return c.charCodeAt(0) - 96
  return c.length === 1 ? Math.max(CYRILLIC.indexOf(c), GREEK.indexOf(c)) + 1 : 0
}

/** The readings of a bare sign such as "3", "b", "iv", "1.2" in one dress. */
function read(sign: string, dress: string): Label[] {
  if (/^\d{1,3}$/.test(sign))
    return [{ count: 'number', dress, value: Number(sign), major: 0, text: String(Number(sign)) }]
  const dotted = /^(\d{1,2})[.-](\d{1,2})$/.exec(sign)
  if (dotted)
    return [
      { count: 'dotted', dress, value: Number(dotted[2]), major: Number(dotted[1]), text: `${dotted[1]}.${dotted[2]}` },
    ]
  const deep = /^(\d{1,2})\.(\d{1,2})\.(\d{1,2})$/.exec(sign)
  if (deep)
    return [
      { count: 'deep', dress, value: Number(deep[3]), major: Number(deep[1]) * 100 + Number(deep[2]), text: sign },
    ]
  const labels: Label[] = []
  const upper = sign === sign.toUpperCase()
  const letter = letterValue(sign),
    roman = romanValue(sign)
  if (letter) labels.push({ count: upper ? 'upper' : 'lower', dress, value: letter, major: 0, text: sign })
  if (roman) labels.push({ count: upper ? 'romanUpper' : 'romanLower', dress, value: roman, major: 0, text: sign })
  return labels
}

const SIGN = '(\\d{1,2}\\.\\d{1,2}\\.\\d{1,2}|\\d{1,3}|\\d{1,2}\\.\\d{1,2}|[A-Za-zа-нА-Нα-θΑ-Θ]|[ivxIVX]{2,5})'
const DRESSES: [string, RegExp][] = [
  ['()', new RegExp(`^\\(${SIGN}\\)[.:]?`, 'u')],
  ['[]', new RegExp(`^\\[([A-Za-z])\\]`, 'u')],
  [')', new RegExp(`^${SIGN}(?:\\.\\)|\\))`, 'u')],
  [':', new RegExp(`^${SIGN}:`, 'u')],
  ['.', new RegExp(`^${SIGN}\\.(?!\\d)`, 'u')],
  ['#', /^(?:#|№|No?\.?\s?|n[°º]\s?)(\d{1,3})[.:)]?(?=\s|$)/u],
]
const KEYWORD = new RegExp(
  `^(${[...new Set(QUESTION_WORDS)].join('|')}|\\p{L}+(?:aufgabe|frage|opgave|uppgift))$`,
  'iu',
)
const CJK = /^第\s*(\d{1,3})\s*[题題問]|^[问問题題]\s*(\d{1,3})/u

/**
 * Labels at the front of some words: "1. (a) (i) Find…" gives three. An empty list for words that begin with none.
 * A bare number or letter is only read where it stands apart: heavier than what follows, or followed by a wide gap, or
 * alone.
 */
export function labelsAt(words: readonly Word[], at: number): Reading[] {
  const readings: Reading[] = []
  let i = at
  let rest = words[i]?.text ?? ''
  while (i < words.length && readings.length < 3) {
    const reading: Found | null =
      readings.length === 0 && rest === words[i]!.text
        ? (keyword(words, i) ?? bare(words, i, 0) ?? dressed(rest))
        : (dressed(rest, true) ?? (rest === words[i]!.text ? bare(words, i, readings.length) : null))
    if (!reading) break
    readings.push({ labels: reading.labels, words: i - at + (reading.words || (reading.left ? 0 : 1)) })
    if (reading.left) rest = reading.left
    else {
      i += reading.words || 1
      rest = words[i]?.text ?? ''
      if (i < words.length && words[i]!.gap > 4 * words[i]!.size) break
    }
  }
  return readings
}

interface Found {
  labels: Label[]
  words: number
  left: string
}

/** @param behind whether another label stands before this one, so that "3a" is algebra and not question 3, part a */
function dressed(text: string, behind = false): Found | null {
  const circled = circledValue(text)
  if (circled) return { labels: circled.labels, words: 0, left: text.slice(circled.length) }
  for (const [dress, pattern] of DRESSES) {
    const m = pattern.exec(text)
    if (!m) continue
    const left = text.slice(m[0].length)
    // "3.5", "1.Find" and "(2)x" are told apart by what follows: only a letter, a bracket or nothing may.
    if (left && dress !== ')' && !/^[\p{L}([“"«¿¡_☐□○]/u.test(left)) continue
    if (left && dress === ':') continue
    return { labels: read(m[1]!, dress), words: 0, left }
  }
  const joint = behind ? null : /^(\d{1,3})[.)]?(\(?)([a-h]|i{1,3})([).:]{0,2})$/.exec(text)
  if (joint && (joint[2] ? joint[4]!.includes(')') : true)) {
    const dress = joint[2] ? '()' : joint[4]!.includes(')') ? ')' : joint[4]!.includes('.') ? '.' : ''
    return {
      labels: [{ count: 'number', dress: 'joint', value: Number(joint[1]), major: 0, text: String(Number(joint[1])) }],
      words: 0,
      left: dress === '()' ? `(${joint[3]})` : joint[3]! + (dress || '.'),
    }
  }
  return null
}

/** ① ⑴ ⒈ Ⓐ ⓐ ⒜ as labels. */
function circledValue(text: string): { labels: Label[]; length: number } | null {
  const code = text.codePointAt(0) ?? 0
  const range = CIRCLED.find(([base, n]) => code >= base && code < base + n)
  return range ? { labels: read(range[2](code - range[0]), range[3]), length: 1 } : null
}
const digits = (k: number) => String(k + 1)
/** Unicode's ranges of signs in rings, brackets and with points: first, how many, what they say, how they are dressed. */
const CIRCLED: readonly (readonly [number, number, (k: number) => string, string])[] = [
  [0x2460, 20, digits, 'ring'],
  [0x2474, 20, digits, '()'],
  [0x2488, 20, digits, '.'],
  [0x2776, 10, digits, 'ring'],
  [0x24b6, 26, k => String.fromCharCode(65 + k), 'ring'],
  [0x24d0, 26, k => String.fromCharCode(97 + k), 'ring'],
  [0x249c, 26, k => String.fromCharCode(97 + k), '()'],
]

/** A keyword and its number in one word: "Q3", "Q3(a)", "Aufgabe3". */
function oneWord(text: string): Found | null {
  const q = /^(?:Q|P|Ex|Aufg|Ej|Fr|Nr|No|Prob|Ques|Pr)[.]?[\s-]?(\d{1,3})(.*)$/u.exec(text)
  if (q && /^[.:)]*(\(?[a-z]\)?[.:)]*)?$/u.test(q[2]!)) {
    const tail = /^\(?([a-z])\)?/.exec(q[2]!.replace(/^[.:)]+/, ''))
    return { labels: read(q[1]!, 'Q'), words: 1, left: tail ? `(${tail[1]})` : '' }
  }
  const fused = /^(\p{L}+)(\d{1,3})[.:)]*$/u.exec(text)
  return fused && KEYWORD.test(fused[1]!) ? { labels: read(fused[2]!, 'word'), words: 1, left: '' } : null
}

/** "Question 3", "Q3", "Q. 3", "Aufgabe 3:", "3. Aufgabe", "Problem IV". */
function keyword(words: readonly Word[], i: number): Found | null {
  const first = words[i]!.text.replace(/[:.]$/, '')
  const cjk = CJK.exec(first)
  if (cjk) return { labels: read(cjk[1] ?? cjk[2]!, 'word'), words: 1, left: '' }
  const one = oneWord(words[i]!.text)
  if (one) return one
  let at = i + 1
  let number = words[at]?.text ?? ''
  const short = /^(Q|Ex|Aufg|Ej|Prob|Ques|Qu)[.]?$/u.test(words[i]!.text)
  if (!short && !KEYWORD.test(first)) return null
  if (/^(n[°ºo]\.?|nr\.?|no\.?|#|№|number)$/iu.test(number)) number = words[++at]?.text ?? ''
  number = number.replace(/^(n[°º]|#|№)/iu, '')
  const m = new RegExp(`^(\\d{1,3}|\\d{1,2}\\.\\d{1,2}|[IVX]{1,5}|[A-Z])([.:)—–-]*)(\\(?[a-z]\\)?)?$`, 'u').exec(number)
  if (!m || (/^[A-Z]$/.test(m[1]!) && !romanValue(m[1]!) && !m[2] && at + 1 < words.length)) return null
  // "Questions 3 and 4", "Question 3 to 5" are about questions; "question 3 shows" is a sentence.
  if (/^(to|and|bis|und|–|-|—|a|y|à|et|&)$/u.test(words[at + 1]?.text ?? '') && /^\d/.test(words[at + 2]?.text ?? ''))
    return null
  if (/^[a-z]/.test(words[i]!.text)) return null
  return {
    labels: read(m[1]!, short ? 'Q' : 'word'),
    words: at - i + 1,
    left: m[3] ? `(${m[3].replace(/[()]/g, '')})` : '',
  }
}

function bare(words: readonly Word[], i: number, depth: number): Found | null {
  const word = words[i]!,
    next = words[i + 1]
  const m = /^(\d{1,3}|\d{1,2}\.\d{1,2}(?:\.\d{1,2})?|[A-Za-z]|[ivxIVX]{2,4})$/u.exec(word.text)
  if (!m) return null
  const opening =
    i === 0 &&
    /\d/.test(word.text) &&
    word.text.length <= 8 &&
    (/^[\p{Lu}¿¡("“]/u.test(next?.text ?? '') || /^\d+\.\d+\.\d+$/.test(word.text))
  const apart = !next || next.gap > 0.62 * word.size || (word.bold && !next.bold) || opening
  if (!apart) return null
  if (depth > 0 && /\d/.test(word.text)) return null
  return { labels: read(m[1]!, ''), words: 1, left: '' }
}
