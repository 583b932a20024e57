/** Puts signs into a text field where its caret stands, without taking the caret away from it. */
export function useSigns(field: () => HTMLInputElement | null | undefined, text: Ref<string>) {
  const caret = () =>
    [field()?.selectionStart ?? text.value.length, field()?.selectionEnd ?? text.value.length] as const
  function to(at: number) {
    void nextTick(() => field()?.setSelectionRange(at, at))
  }
  /** In the place of what is selected. A closing bracket that comes with a sign stays behind the caret. */
  function insert(sign: string) {
    const [from, end] = caret()
    text.value = text.value.slice(0, from) + sign + text.value.slice(end)
    to(from + (sign.endsWith(')') && sign.length > 1 ? sign.length - 1 : sign.length))
  }
  function back() {
    const [from, end] = caret()
    const start = from === end ? Math.max(0, from - 1) : from
    text.value = text.value.slice(0, start) + text.value.slice(end)
    to(start)
  }
  function step(by: number) {
    to(Math.max(0, Math.min(text.value.length, (by < 0 ? caret()[0] : caret()[1]) + by)))
  }
  return { insert, back, step }
}
