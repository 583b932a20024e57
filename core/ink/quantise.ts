/**
 * One sample as it is stored: hundredths of a point, thousandths of pressure, whole ms; so that every file format keeps
 * it exactly.
 */
export function quantise(x: number, y: number, pressure: number, t: number): [number, number, number, number] {
  const p = Number.isFinite(pressure) ? Math.min(1, Math.max(0, pressure)) : 0.5
  return [Math.round(x * 100) / 100, Math.round(y * 100) / 100, Math.round(p * 1000) / 1000, Math.round(t)]
}
