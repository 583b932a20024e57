/** Turns the pad off. */
export default defineEventHandler((event) => {
  closePad(getQuery(event).key)
  return null
})
