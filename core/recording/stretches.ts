/** A stretch of time, `from` included, `to` not, in ms. */
export interface Stretch {
  from: number
  to: number
}

/** A stretch without some others, which are ascending. */
export function without(whole: Stretch, others: readonly Stretch[]): Stretch[] {
  const out: Stretch[] = []
  let { from } = whole
  for (const o of others) {
    if (o.to <= from || o.from >= whole.to) continue
    if (o.from > from) out.push({ from, to: o.from })
    from = Math.max(from, o.to)
  }
  if (from < whole.to) out.push({ from, to: whole.to })
  return out
}
