/** What the pad, a second device beside the keyboard, can ask of a take. */
export const PRESSES = ['record', 'step', 'back', 'turn', 'pause', 'reveal', 'refer', 'next', 'stop'] as const
export type Press = (typeof PRESSES)[number]
