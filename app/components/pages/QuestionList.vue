<script setup lang="ts">
import { marksOf, targetMinutes, type Question } from '#core/folio'
import { FAIRLY_SURE, SURE } from '#core/questions'

/** The questions of the folio; the chosen one shows what it is made of. */
const props = defineProps<{ current?: Question; adding: boolean }>()
const emit = defineEmits<{ select: [id: string]; another: [id: string] }>()
const store = useFolio()
const list = ref<HTMLElement>()
const minutes = (q: Question) => (store.folio ? targetMinutes(q, store.folio) : null)
const total = computed(() => store.questions.reduce((n, q) => n + (minutes(q) ?? 0), 0))
function rename(id: string, key: 'number' | 'title', event: Event) {
  const value = (event.target as HTMLInputElement).value.trim()
  store.changeQuestion(id, `change the ${key}`, q => {
    q[key] = value || (key === 'number' ? q.number : '')
    q.proposal = null
  })
}
const about = (q: Question) =>
  [
    marksOf(q) === null ? '' : `${marksOf(q)} ${marksOf(q) === 1 ? 'mark' : 'marks'}`,
    q.parts.length ? `${q.parts.length} ${q.parts.length === 1 ? 'part' : 'parts'}` : '',
    q.options.length ? `${q.options.length} options` : '',
    q.regions.length > 1 ? `${q.regions.length} regions` : '',
  ]
    .filter(Boolean)
    .join(', ')
watch(
  () => props.current?.id,
  id => nextTick(() => list.value?.querySelector(`[data-question="${id}"]`)?.scrollIntoView({ block: 'nearest' })),
)
</script>

<template>
  <p class="border-b border-(--rule-fine) px-4 py-2 text-sm text-toned">
    <template v-if="adding"> Draw the further region now. Escape leaves it. </template>
    <template v-else-if="store.questions.length">
      {{ store.questions.length }} {{ store.questions.length === 1 ? 'question' : 'questions'
      }}{{ total ? `, about ${Math.round(total)} ${Math.round(total) === 1 ? 'minute' : 'minutes'} of talking` : '' }}.
    </template>
    <template v-else> Draw a rectangle on the page round each question, with the room you need for writing. </template>
  </p>
  <ol
    ref="list"
    class="min-h-0 grow overflow-y-auto"
  >
    <li
      v-for="q in store.questions"
      :key="q.id"
      class="row border-b border-(--rule-fine) px-3 py-2.5"
      :class="{ here: q.id === current?.id }"
      data-part="question-row"
      :data-question="q.id"
      @pointerdown="emit('select', q.id)"
    >
      <div class="flex gap-2">
        <UInput
          :model-value="q.number"
          :aria-label="`Number of question ${q.number}`"
          class="w-14"
          :maxlength="24"
          :disabled="store.readOnly"
          @change="rename(q.id, 'number', $event)"
        />
        <UInput
          :id="`title-${q.id}`"
          :model-value="q.title"
          :aria-label="`Title of question ${q.number}`"
          placeholder="Title, as students will see it"
          class="grow"
          :maxlength="300"
          :disabled="store.readOnly"
          @change="rename(q.id, 'title', $event)"
        />
      </div>
      <p class="mt-1.5 flex items-center gap-1.5 text-sm text-toned">
        <StateMark :stage="store.stages.get(q.id) ?? 'not started'" />
        <span v-if="q.proposal !== null"
          >found, {{ q.proposal >= SURE ? 'sure' : q.proposal >= FAIRLY_SURE ? 'fairly sure' : 'look twice' }}</span
        >
        <span v-else>{{ store.stages.get(q.id) }}</span>
        <span class="ml-auto">{{ about(q) }}</span>
      </p>
      <QuestionDetails
        v-if="q.id === current?.id && !store.readOnly"
        :question="q"
        @select="emit('select', $event)"
        @another="emit('another', q.id)"
      />
    </li>
  </ol>
</template>

<style scoped>
.row.here {
  box-shadow: inset 4px 0 0 var(--frame);
  background: var(--ui-bg-elevated);
}
</style>
