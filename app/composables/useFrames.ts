import type { Frame, Question } from '#core/folio'

/** The frames of a question in Solve: which one is shown, and the reference sheet that lies over it for students. */
export function useFrames(current: () => Question | undefined) {
  const store = useFolio()
  const recording = useRecording()
  const frames = computed(() => {
    const question = current()
    return question ? store.frames(question) : []
  })
  const at = ref(0)
  const inFrame = ref<string | null>(null)
  /** An earlier question that is being looked at. */
  const referred = shallowRef<Question | null>(null)
  const bare = computed(
    () =>
      (referred.value && store.frame(referred.value)) ??
      frames.value[Math.min(at.value, frames.value.length - 1)] ??
      null,
  )
  const frame = computed(() => bare.value && withSheet(bare.value))

  watch(
    () => current()?.id,
    () => {
      at.value = 0
      inFrame.value = null
      referred.value = null
    },
  )

  /** A frame with the sheet over its right half. */
  function withSheet(base: Frame): Frame {
    const sheet = store.folio?.pages.find(p => p.id === inFrame.value)
    if (!sheet) return base
    const { x, y, w, h } = base.box
    const scale = Math.min((w * 0.6) / sheet.width, (h * 0.92) / sheet.height)
    return {
      ...base,
      inset: {
        pageId: sheet.id,
        from: { x: 0, y: 0, w: sheet.width, h: sheet.height },
        box: {
          x: x + w * 0.98 - sheet.width * scale,
          y: y + h * 0.04,
          w: sheet.width * scale,
          h: sheet.height * scale,
        },
      },
    }
  }

  /** Shows the next frame or the one before; while a take runs, students go there, too. */
  /** Goes to another frame of the question. @returns why it cannot, when it cannot */
  function step(by: number): string | undefined {
    if (!frames.value[at.value + by])
      return by > 0 ? 'This is the last frame of the question.' : 'This is the first frame of the question.'
    if (recording.state === 'paused') return 'The take is paused. Go on with P first.'
    if (recording.state === 'counting') return 'The take has not begun yet: it counts down.'
    at.value += by
    recording.goTo(frame.value!)
  }

  /** Lays a sheet over the frame, or takes it off. */
  function showSheet(pageId: string | null) {
    inFrame.value = pageId
    if (frame.value) recording.goTo(frame.value)
  }

  /**
   * Shows an earlier question's page, or goes back to the own one; what was written there in this take is still there.
   */
  function refer(question: Question | null) {
    if (recording.state === 'paused' || recording.state === 'counting') return
    referred.value = question
    if (frame.value) recording.goTo(frame.value)
  }

  /** Shows the frame that students see at a moment of a take, after it was gone back to. */
  function follow(frame: Frame | undefined) {
    if (!frame) return
    const same = (a: Frame, b: Frame) => a.pageId === b.pageId && JSON.stringify(a.box) === JSON.stringify(b.box)
    const own = frames.value.findIndex(f => same(f, frame))
    referred.value = own >= 0 ? null : (store.questions.find(q => store.frames(q).some(f => same(f, frame))) ?? null)
    if (own >= 0) at.value = own
    inFrame.value =
      frame.inset && JSON.stringify(frame.inset) !== JSON.stringify(bare.value?.inset) ? frame.inset.pageId : null
  }

  /** Goes back to the first frame, where a take begins. @returns it */
  function begin(): Frame | null {
    at.value = 0
    referred.value = null
    return frame.value
  }

  return { frames, at, frame, inFrame, referred, step, showSheet, refer, follow, begin }
}
