<script setup lang="ts">
import type { Page } from '#core/folio'

/**
 * A page in small, painted when it comes into sight and the browser has time. What is wrong with a page is said where
 * it is shown large.
 */
const props = defineProps<{ page: Page }>()
const WIDTH = 84
const holder = ref<HTMLElement>()
usePagePicture(
  holder,
  () => props.page,
  () => WIDTH / props.page.width,
  { near: '300px', css: 'w-full', idle: true },
)
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
