/** Whether a closed ring of flat x, y pairs is filled at a place, by the rule "nonzero" (SVG 1.1, 11.3). */
export function isInside(ring: readonly number[], x: number, y: number): boolean {
  let winding = 0
  eachEdge(ring, (ax, ay, bx, by) => {
    const side = (bx - ax) * (y - ay) - (x - ax) * (by - ay)
    if (ay <= y && by > y && side > 0) winding++
    if (ay > y && by <= y && side < 0) winding--
  })
  return winding !== 0
}

/** How far a place is from the edge of a ring, points. */
export function edgeDistance(ring: readonly number[], x: number, y: number): number {
  let least = Infinity
  eachEdge(ring, (ax, ay, bx, by) => {
    const [dx, dy] = [bx - ax, by - ay]
    const length = dx * dx + dy * dy
    const share = length ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length)) : 0
    least = Math.min(least, Math.hypot(x - ax - share * dx, y - ay - share * dy))
  })
  return least
}

function eachEdge(ring: readonly number[], use: (ax: number, ay: number, bx: number, by: number) => void): void {
  for (let i = 0, before = ring.length - 2; i < ring.length; before = i, i += 2)
    use(ring[before]!, ring[before + 1]!, ring[i]!, ring[i + 1]!)
}
