import type { Stuck } from '../../core/lesson'

/** A question about a moment, as a student page writes it; hostile where a student may write. */
export const aStuck = (extra: Partial<Stuck> = {}): Stuck => ({
  form: 'orthograph-stuck',
  version: 1,
  lesson: 'first',
  question: 'q1',
  number: '1',
  says: 'Why do you subtract? <b>😀</b> \u202Eevil',
  t: 4200,
  step: 'Subtract',
  stepIndex: 1,
  attempt: [[10, 10, 0.5, 0, 20, 20, 0.5, 30]],
  ...extra,
})
