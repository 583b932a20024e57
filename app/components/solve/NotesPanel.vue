<script setup lang="ts">
import type { Question } from '#core/folio'

/** What she wants to remember while she talks. Hers only: it is never in the frame. */
const props = defineProps<{ question: Question }>()
const store = useFolio()
const recording = useRecording()
const open = ref(props.question.notes !== '')
const text = ref(props.question.notes)
watch(
  () => props.question.id,
  () => {
    open.value = props.question.notes !== ''
    text.value = props.question.notes
  },
)
function keep() {
  const { id, notes } = props.question
  if (text.value !== notes)
    store.changeQuestion(id, 'change the notes', q => {
      q.notes = text.value
    })
}
</script>

<template>
  <section
    v-if="open || !recording.active"
    class="shrink-0 border-t border-(--rule)"
    data-part="notes"
  >
    <button
      v-if="!recording.active"
      type="button"
      class="flex min-h-11 w-full items-center gap-2 px-4 text-left text-sm font-semibold"
      :aria-expanded="open"
      @click="open = !open"
    >
      <span class="grow">Notes for the talk</span>
      <UIcon
        :name="open ? 'i-lucide-chevron-up' : 'i-lucide-chevron-down'"
        class="size-4 text-toned"
      />
    </button>
    <p
      v-if="recording.active"
      class="max-h-40 overflow-y-auto px-4 py-2 text-sm whitespace-pre-line"
    >
      {{ text }}
    </p>
    <UTextarea
      v-else-if="open"
      v-model="text"
      class="w-full px-4 pb-3"
      :rows="3"
      autoresize
      :maxrows="6"
      maxlength="5000"
      placeholder="Only you see this"
      aria-label="Notes for the talk"
      @blur="keep"
    />
  </section>
</template>
