<script setup lang="ts">
import type { Page } from '#core/folio'
import { pictureOfPage } from '../paper/pageStore'

/** A page in small, painted when it comes into sight and the browser has time. */
const props = defineProps<{ page: Page }>()
const WIDTH = 84
const store = useFolio()
const holder = ref<HTMLElement>()
const seen = useElementVisibility(holder, { rootMargin: '300px' })
let painted = ''
const look = computed(() => JSON.stringify([props.page.id, props.page.turns, props.page.spaces, props.page.patches, props.page.kind === 'image' ? props.page.documentId : '']))

watch([seen, look], () => {
  if (!seen.value || painted === look.value) return
  painted = look.value
  requestIdleCallback(() => { void paint() }, { timeout: 2000 })
}, { immediate: true })
async function paint() {
  const { page } = props
  if (!store.folio) return
  const wanted = painted
  try {
    const canvas = await pictureOfPage(page, store.folio, { x: 0, y: 0, w: page.width, h: page.height }, (WIDTH / page.width) * Math.min(2, devicePixelRatio))
    if (painted !== wanted) return
    canvas.style.width = '100%'
    holder.value?.replaceChildren(canvas)
  }
  // What is wrong with a page is said where it is shown large; here its place stays empty.
  catch { painted = '' }
}
</script>

<template>
  <span
    ref="holder"
    class="block"
  ><span
    class="empty block w-full"
    :style="{ aspectRatio: `${page.width} / ${page.height}` }"
  /></span>
</template>
