/** Turns the pad on: → `{code, key, addresses}`. */
export default defineEventHandler(() => openPad())
