<script setup lang="ts">
import type { Portrait } from '#core/folio'

/** How the camera's picture stands in the video of this question. */
const props = defineProps<{ portrait?: Portrait; disabled: boolean }>()
const emit = defineEmits<{ change: [portrait: Portrait | null] }>()
const camera = useCamera()
const shown = computed({ get: () => props.portrait ?? camera.portrait, set: portrait => emit('change', portrait) })
</script>

<template>
  <div
    class="flex flex-wrap items-center gap-2 border border-(--rule) bg-default px-3 py-2 text-sm"
    data-part="portrait-row"
  >
    <UIcon
      name="i-lucide-video"
      class="size-5"
    />
    <UCheckbox
      :model-value="portrait !== undefined"
      :disabled="disabled"
      label="Your picture is shown"
      class="mr-auto"
      @update:model-value="$emit('change', $event ? camera.portrait : null)"
    />
    <PortraitSelects
      v-if="portrait"
      v-model="shown"
      class="w-96"
      :disabled="disabled"
    />
  </div>
</template>
