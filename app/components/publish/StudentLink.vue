<script setup lang="ts">
import { renderSVG } from 'uqr'
import { changeWords, dateAndTime, megabytes } from '#core/publish'

/** The one link: what stands under it, what has changed since, and the link as text and as a QR code. */
const site = useClassSite()
const publish = usePublish()
const store = useFolio()
const { copy, copied } = useClipboard()
const asCode = ref(false)
const picture = computed(() => {
  const svg = renderSVG(site.published?.link ?? '', { border: 2 })
  return `data:image/svg+xml,${encodeURIComponent(svg)}`
})
const differs = computed(() => (site.changes ? changeWords(site.changes, store.questions) : []))
const idle = computed(() => publish.recorded.length > 0 && publish.working === '')
</script>

<template>
  <div
    class="flex flex-col gap-4"
    data-part="student-link"
  >
    <div
      v-if="site.published"
      class="border-l-4 pl-4"
      :class="site.current && !site.isChanged ? 'border-(--ui-success)' : 'border-(--ui-primary)'"
    >
      <p class="flex flex-wrap items-center gap-x-3 gap-y-2">
        <a
          class="break-all text-lg text-primary underline"
          data-part="class-link"
          :href="site.published.link"
          target="_blank"
          rel="noopener"
          >{{ site.published.link }}</a
        >
        <UButton
          color="neutral"
          variant="outline"
          size="sm"
          :icon="copied ? 'i-lucide-check' : 'i-lucide-copy'"
          @click="copy(site.published.link)"
        >
          {{ copied ? 'Copied' : 'Copy' }}
        </UButton>
        <UButton
          color="neutral"
          variant="outline"
          size="sm"
          icon="i-lucide-qr-code"
          @click="asCode = true"
        >
          QR code
        </UButton>
      </p>
      <p
        v-if="site.current"
        class="mt-1"
        data-part="version-now"
      >
        Students have version {{ site.numberOf(site.current.id) }}, {{ dateAndTime(site.current.at) }},
        {{ megabytes(site.current.bytes) }}.
        <template v-if="!site.isChanged"> It says what the folio says. </template>
        <template v-else> Since then — {{ differs.join('; ') }}. </template>
      </p>
      <p
        v-else
        class="mt-1"
        data-part="version-now"
      >
        Students have nothing of it now. The link stays.
      </p>
      <p
        v-if="site.away"
        class="mt-1 text-toned"
        role="status"
      >
        {{ site.away }}
      </p>
    </div>
    <div class="flex flex-wrap items-center gap-3">
      <UButton
        size="xl"
        icon="i-lucide-send"
        :disabled="!idle || store.readOnly"
        :color="site.current && !site.isChanged ? 'neutral' : 'primary'"
        :variant="site.current && !site.isChanged ? 'outline' : 'solid'"
        @click="site.toStudents"
      >
        {{ site.published ? 'Publish the changes' : 'Publish' }} <kbd class="key">P</kbd>
      </UButton>
      <slot />
    </div>
    <UModal
      v-model:open="asCode"
      title="QR code of the link"
      description="For the board, or for a sheet of paper."
      :ui="{ content: 'max-w-md' }"
    >
      <template #body>
        <img
          :src="picture"
          :alt="`QR code of ${site.published?.link}`"
          class="mx-auto w-72 bg-white"
          data-part="qr-code"
        />
        <p class="mt-3 break-all text-center">{{ site.published?.link }}</p>
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
  </div>
</template>
