<script setup lang="ts">
import type { Box, Patch } from '#core/folio'

/** Asks for the words that go over a misprint. */
const props = defineProps<{ patch: { pageId: string; box: Box; before: string; size: number } }>()
const emit = defineEmits<{ done: [patch: Omit<Patch, 'id'>]; close: [] }>()
const open = computed({ get: () => true, set: () => emit('close') })
/** A patch has at most so many characters. */
const MOST = 1000
const text = ref(props.patch.before.slice(0, MOST))
const size = ref(Math.round(props.patch.size * 10) / 10)
const serif = ref(true)
function done() {
  emit('done', {
    box: props.patch.box,
    text: text.value,
    before: props.patch.before.slice(0, MOST),
    size: Math.min(200, Math.max(3, Number(size.value) || 11)),
    serif: serif.value,
  })
  emit('close')
}
</script>

<template>
  <UModal
    v-model:open="open"
    title="Patch a misprint"
    :description="
      patch.before
        ? `It reads “${patch.before}” now. The page keeps it underneath.`
        : 'What stands there now stays underneath.'
    "
  >
    <template #body>
      <form
        class="flex flex-col gap-3"
        @submit.prevent="done"
      >
        <UFormField label="It should read">
          <UTextarea
            v-model="text"
            :rows="2"
            :maxlength="MOST"
            autofocus
            class="w-full"
            @keydown.enter.exact.prevent="done"
          />
        </UFormField>
        <div class="flex items-end gap-4">
          <UFormField label="Size, points">
            <UInput
              v-model="size"
              inputmode="decimal"
              class="w-20"
            />
          </UFormField>
          <UCheckbox
            v-model="serif"
            label="With serifs"
            class="pb-1.5"
          />
          <UButton
            type="submit"
            class="ml-auto"
          >
            Put it on
          </UButton>
        </div>
      </form>
    </template>
  </UModal>
</template>
