<script setup lang="ts">
import type { Question } from '#core/folio'

/** A question by number and title, wherever it stands: the title is changed in place. */
const props = defineProps<{ question: Question; disabled?: boolean }>()
const store = useFolio()
const name = (event: Event) =>
  store.changeQuestion(props.question.id, 'change the title', q => {
    q.title = (event.target as HTMLInputElement).value.trim()
  })
const leave = (event: KeyboardEvent) => (event.target as HTMLInputElement).blur()
</script>

<template>
  <span class="flex min-w-0 items-baseline gap-2">
    <span class="serif shrink-0">{{ question.title ? question.number : `Question ${question.number}` }}</span>
    <input
      :value="question.title"
      placeholder="Title, as students will see it"
      :aria-label="`Title of question ${question.number}`"
      :title="question.title || undefined"
      maxlength="300"
      :disabled="disabled || store.readOnly"
      class="title min-w-0 grow bg-transparent"
      data-part="question-title"
      @change="name"
      @keydown.enter="leave"
    />
  </span>
</template>

<style scoped>
.title {
  border-bottom: 1px dashed transparent;
  text-overflow: ellipsis;
}
.title:enabled:hover,
.title:enabled:focus {
  border-bottom-color: var(--rule);
}
.title::placeholder {
  font-weight: normal;
  color: var(--lead-soft);
}
</style>
