/** Counts seconds down before something begins. */
export function useCountdown() {
  const left = ref(0)
  let counts = 0

  /** @returns whether it was counted to its end: not stopped, not begun anew, not `given` up */
  async function count(seconds: number, given: () => boolean): Promise<boolean> {
    const own = ++counts
    left.value = seconds
    while (left.value > 0 && !given() && own === counts) {
      await new Promise(r => setTimeout(r, 1000))
      if (own === counts) left.value--
    }
    return own === counts && !given()
  }
  function stop() {
    counts++
    left.value = 0
  }
  return { left, count, stop }
}
