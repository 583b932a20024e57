<script setup lang="ts">
/** The page just as a student gets it, before anyone does: as wide as a desk's screen, or as a phone. */
const publish = usePublish()
const phone = ref(false)
const SHAPES = [
  { value: 'wide', label: 'Wide' },
  { value: 'phone', label: 'Phone' },
]
const shape = computed({
  get: () => (phone.value ? 'phone' : 'wide'),
  set: value => {
    phone.value = value === 'phone'
  },
})
const open = computed({
  get: () => publish.preview !== null,
  set: () => publish.closePreview(),
})
onBeforeUnmount(publish.closePreview)
</script>

<template>
  <UModal
    v-model:open="open"
    fullscreen
    title="As a student"
    description="This is the page that students get."
    :ui="{ body: 'p-0 sm:p-0 flex flex-col min-h-0' }"
  >
    <template #body>
      <div class="flex items-center gap-3 border-b border-default px-4 py-2">
        <ChoiceRow
          v-model="shape"
          :items="SHAPES"
          label="How it is seen"
        />
        <p class="text-sm text-toned">What is written here stays in this browser; students have theirs.</p>
      </div>
      <div class="squared grid min-h-0 grow place-items-center overflow-auto">
        <iframe
          v-if="publish.preview"
          :key="shape"
          :srcdoc="publish.preview.html"
          title="The student page"
          class="border border-(--rule) bg-white"
          :style="phone ? 'width: 390px; height: min(100%, 780px)' : 'width: 100%; height: 100%; border: 0'"
          data-part="as-student"
        />
      </div>
    </template>
  </UModal>
</template>
