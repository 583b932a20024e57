/**
 * Counts on from a number, a letter or a Roman numeral. A letter that can be both is what goes on from the number
 * before: after "h" comes the letter i, and without that the numeral.
 */
export function counterFrom(first: string, before: string): ((by: number) => string) | null {
  if (/^\d+$/.test(first)) return by => String(Number(first) + by)
  const asFirst = (text: string) => (first === first.toUpperCase() ? text.toUpperCase() : text)
  const small = first.toLowerCase()
  const isLetter =
    small.length === 1 &&
    (!'ivx'.includes(small) || before.toLowerCase().endsWith(lettersOf(valueOfLetters(small) - 1)))
  const roman = romanValue(small)
  if (!isLetter && roman) return by => asFirst(romanOf(roman + by))
  return small.length === 1 ? by => asFirst(lettersOf(valueOfLetters(small) + by)) : null
}

const valueOfLetters = (text: string) => [...text].reduce((n, c) => n * 26 + c.charCodeAt(0) - 96, 0)
/** 1 → "a", 26 → "z", 27 → "aa". */
const lettersOf = (n: number): string =>
  n < 1 ? '' : lettersOf(Math.floor((n - 1) / 26)) + String.fromCharCode(97 + ((n - 1) % 26))

const SIGNS: readonly (readonly [string, number])[] = [
  ['l', 50],
  ['xl', 40],
  ['x', 10],
  ['ix', 9],
  ['v', 5],
  ['iv', 4],
  ['i', 1],
]
const romanOf = (n: number): string => {
  const sign = SIGNS.find(([, value]) => value <= n)
  return sign ? sign[0] + romanOf(n - sign[1]) : ''
}
const ROMAN = /^(?=[ivx])x{0,3}(ix|iv|v?i{0,3})$/i
/** The value of a Roman number up to 39; 0 for what is none. @example romanValue('iv') // 4 */
export function romanValue(text: string): number {
  if (!ROMAN.test(text)) return 0
  const worth: Record<string, number> = { i: 1, v: 5, x: 10 }
  return [...text.toLowerCase()].reduce(
    (sum, c, i, all) => sum + (worth[c]! < (worth[all[i + 1] ?? 'i'] ?? 0) && all[i + 1] ? -worth[c]! : worth[c]!),
    0,
  )
}
