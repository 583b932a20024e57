/** Samples that are drawn of a stroke while it grows; a usual one has far fewer. */
const LIVE_SAMPLES = 4000
/** The newest samples stay as they are: there the eye is. */
const NEWEST = 500

/**
 * Samples of a growing stroke, as few as can be drawn in one picture: where there are too many, older ones that lie
 * close together are
 * left out. The stroke itself keeps all of them.
 * @param points x, y in points, pressure, milliseconds; four numbers a sample
 * @returns the same array when it is short enough
 */
export function thinned(points: readonly number[]): readonly number[] {
  const count = points.length / 4
  if (count <= LIVE_SAMPLES) return points
  const newest = (count - NEWEST) * 4
  for (let gap = 0.5; ; gap *= 2) {
    const kept = points.slice(0, 4)
    for (let i = 4; i < newest; i += 4) {
      if (Math.abs(points[i]! - kept[kept.length - 4]!) + Math.abs(points[i + 1]! - kept[kept.length - 3]!) >= gap)
        kept.push(points[i]!, points[i + 1]!, points[i + 2]!, points[i + 3]!)
    }
    if (kept.length / 4 <= LIVE_SAMPLES - NEWEST) return kept.concat(points.slice(newest))
  }
}
