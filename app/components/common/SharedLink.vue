<script setup lang="ts">
import { renderSVG } from 'uqr'

/** A link that students get: as text, to be copied, and as a QR code. */
const props = withDefaults(
  defineProps<{
    link: string
    /** What it leads to, as the code's title says it. */
    of: string
    large?: boolean
    /** What the link itself is called in the page. */
    part?: string
  }>(),
  { part: 'shared-link' },
)
const { copy, copied } = useClipboard()
const asCode = ref(false)
const picture = computed(() => `data:image/svg+xml,${encodeURIComponent(renderSVG(props.link, { border: 2 }))}`)
</script>

<template>
  <span class="inline-flex flex-wrap items-center gap-x-3 gap-y-2">
    <a
      class="break-all text-primary underline"
      :class="{ 'text-lg': large }"
      :data-part="part"
      :href="link"
      target="_blank"
      rel="noopener"
      >{{ link }}</a
    >
    <UButton
      color="neutral"
      :variant="large ? 'outline' : 'ghost'"
      size="sm"
      :icon="copied ? 'i-lucide-check' : 'i-lucide-copy'"
      :aria-label="`Copy the link of ${of}`"
      @click="copy(link)"
    >
      {{ copied ? 'Copied' : 'Copy' }}
    </UButton>
    <UButton
      color="neutral"
      :variant="large ? 'outline' : 'ghost'"
      size="sm"
      icon="i-lucide-qr-code"
      :aria-label="`QR code of ${of}`"
      @click="asCode = true"
    >
      QR code
    </UButton>
    <UModal
      v-model:open="asCode"
      :title="`QR code of ${of}`"
      description="For the board, or for a sheet of paper."
      :ui="{ content: 'max-w-md' }"
    >
      <template #body>
        <img
          :src="picture"
          :alt="`QR code of ${link}`"
          class="mx-auto w-72 bg-white"
          data-part="qr-code"
        />
        <p class="mt-3 break-all text-center">{{ link }}</p>
      </template>
      <template #footer>
        <UButton
          color="neutral"
          variant="outline"
          :to="picture"
          external
          download="link.svg"
        >
          Save the picture
        </UButton>
      </template>
    </UModal>
  </span>
</template>
