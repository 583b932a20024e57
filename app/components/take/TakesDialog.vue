<script setup lang="ts">
import type { Question } from '#core/folio'

/** The takes of a question beside each other. All are kept; one is in use. */
const props = defineProps<{ question: Question }>()
const emit = defineEmits<{ close: [] }>()
const store = useFolio()
const proof = useProof()
const open = computed({ get: () => true, set: () => emit('close') })
const takes = computed(() => store.takesOf(props.question.id))
const playing = ref<string | null>(null)
const question = computed(() => store.questions.find(q => q.id === props.question.id) ?? props.question)
</script>

<template>
  <UModal
    v-model:open="open"
    title="Compare the takes"
    description="All of them are kept, with the steps they had. The one in use becomes the video."
    :ui="{ content: 'max-w-5xl' }"
  >
    <template #body>
      <ul
        class="grid grid-cols-2 gap-4"
        data-part="compare"
      >
        <TakeCard
          v-for="(take, i) in takes"
          :key="take.id"
          :question="question"
          :take="take"
          :number="i + 1"
          :playing="playing === take.id"
          @play="playing = $event ? take.id : null"
          @use="proof.putTakeInUse(question, take)"
        />
      </ul>
    </template>
  </UModal>
</template>
