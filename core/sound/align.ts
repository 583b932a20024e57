/** How two pieces of sound lie to each other: `lag` samples later is the second, and how alike they are there, −1…1. */
export interface Alignment {
  lag: number
  alike: number
}

/**
 * Finds where one piece of sound lies in relation to another by normalised cross-correlation.
 * @param a as it should be @param b as it is, as long as `a` @param most lag that is looked for, samples, either way
 * @returns null where either is so still that nothing can be said (below −50 dBFS)
 * @example align([0, 1, 0, 0, 0, 0], [0, 0, 1, 0, 0, 0], 2) // { lag: 1, alike: 1 }
 */
export function align(a: ArrayLike<number>, b: ArrayLike<number>, most: number): Alignment | null {
  const from = most
  const to = Math.min(a.length, b.length) - most
  if (to <= from || power(a, from, to) < STILL || power(b, from, to) < STILL) return null
  let best: Alignment = { lag: 0, alike: -1 }
  for (let lag = -most; lag <= most; lag++) {
    let dot = 0,
      own = 0,
      other = 0
    for (let i = from; i < to; i++) {
      const x = a[i]!,
        y = b[i + lag]!
      dot += x * y
      own += x * x
      other += y * y
    }
    const alike = dot / Math.sqrt(own * other || 1)
    if (alike > best.alike) best = { lag, alike }
  }
  return best
}

/** Mean square of −50 dBFS. */
const STILL = 1e-5

function power(pcm: ArrayLike<number>, from: number, to: number): number {
  let sum = 0
  for (let i = from; i < to; i++) sum += pcm[i]! * pcm[i]!
  return sum / (to - from)
}
