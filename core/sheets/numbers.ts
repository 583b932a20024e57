import type { ReferenceSheet } from './model'
import { grouped } from './units'

/** Prime numbers up to a bound, by crossing out multiples (the sieve of Eratosthenes). */
export function primesUpTo(most: number): number[] {
  const crossed = new Uint8Array(most + 1)
  const primes: number[] = []
  for (let n = 2; n <= most; n++) {
    if (crossed[n]) continue
    primes.push(n)
    for (let m = n * n; m <= most; m += n) crossed[m] = 1
  }
  return primes
}

const range = (from: number, to: number) => Array.from({ length: to - from + 1 }, (_, i) => from + i)
const COMPUTED = 'computed here, exactly'

export const NUMBERS: ReferenceSheet = {
  id: 'numbers',
  title: 'Powers and primes',
  sections: [
    {
      id: 'squares',
      title: 'Squares and cubes',
      source: COMPUTED,
      head: ['n', 'n²', 'n³'],
      rows: range(1, 30).map(n => [String(n), grouped(n * n), grouped(n ** 3)]),
    },
    {
      id: 'powers',
      title: 'Powers',
      source: COMPUTED,
      head: ['n', '2ⁿ', '3ⁿ', '5ⁿ'],
      rows: range(1, 12).map(n => [String(n), grouped(2 ** n), grouped(3 ** n), grouped(5 ** n)]),
    },
    {
      id: 'primes',
      title: 'Primes up to 400',
      source: COMPUTED,
      head: ['', '', '', '', '', ''],
      rows: range(0, 12).map(i =>
        primesUpTo(400)
          .slice(i * 6, i * 6 + 6)
          .map(String),
      ),
    },
  ],
}
