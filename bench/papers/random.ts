/** Numbers that look random and are the same for the same seed (mulberry32, public domain, from memory). */
export function seeded(seed: number) {
  let a = seed >>> 0
  const next = () => {
    a = (a + 0x6d2b79f5) >>> 0
    let t = Math.imul(a ^ (a >>> 15), 1 | a)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
  const int = (from: number, to: number) => from + Math.floor(next() * (to - from + 1))
  const pick = <T>(of: readonly T[]): T => of[int(0, of.length - 1)]!
  const chance = (p: number) => next() < p
  return { next, int, pick, chance }
}
export type Random = ReturnType<typeof seeded>
