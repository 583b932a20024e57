/** Suggested times for a student to try, s. */
export const TURN_TIMES = [15, 30, 60, 120, 300].map(s => ({
  label: s < 60 ? `${s} seconds` : s === 60 ? '1 minute' : `${s / 60} minutes`,
  value: s,
}))
/** How long the video holds still meanwhile, s. */
export const HOLDS = [
  { label: 'No holding', value: 0 },
  ...[3, 5, 10, 20].map(s => ({ label: `Holds ${s} s`, value: s })),
]
