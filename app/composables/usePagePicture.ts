import type { Page } from '#core/folio'
import { noticeKey } from '../paper/notice'
import { pictureOfPage } from '../paper/pageStore'

/** A page that goes by while the browser is busy is not waited for longer than this, ms. */
const IDLE_MS = 2000

/**
 * Keeps the picture of a whole page in an element: painted when it comes near to being seen, and anew when the page
 * looks different.
 * @param scale CSS pixels a point
 * @param how `near`: how far from being seen, as a root margin; `css`: classes of the picture; `idle`: only when the
 * browser has time;
 * `failed` is told what is wrong with the page, whose place stays as it was
 */
export function usePagePicture(
  holder: Readonly<Ref<HTMLElement | undefined>>,
  page: () => Page,
  scale: () => number,
  how: { near: string; css: string; idle?: boolean; failed?: (error: unknown) => void },
): void {
  const store = useFolio()
  const seen = useElementVisibility(holder, { rootMargin: how.near })
  const look = computed(() => {
    const of = page()
    return JSON.stringify([
      of.id,
      of.turns,
      of.spaces,
      of.patches,
      scale(),
      of.kind === 'image' ? of.documentId : '',
      of.kind === 'notice' && store.folio ? noticeKey(store.folio) : '',
    ])
  })
  let painted = ''
  watch(
    [seen, look],
    async () => {
      if (!seen.value || !store.folio || painted === look.value) return
      const wanted = (painted = look.value)
      try {
        if (how.idle) await new Promise(resolve => requestIdleCallback(resolve, { timeout: IDLE_MS }))
        if (painted !== wanted || !store.folio) return
        const shown = page()
        const canvas = await pictureOfPage(
          shown,
          store.folio,
          { x: 0, y: 0, w: shown.width, h: shown.height },
          scale() * Math.min(2, devicePixelRatio),
        )
        // Pictures may come in another order than they were asked for.
        if (painted !== wanted) return
        canvas.className = how.css
        holder.value?.replaceChildren(canvas)
      } catch (error) {
        if (painted === wanted) painted = ''
        how.failed?.(error)
      }
    },
    { immediate: true, flush: 'post' },
  )
}
