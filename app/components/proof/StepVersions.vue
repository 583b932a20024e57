<script setup lang="ts">
import { remadeInWords, stepAlone, useVersion, versionInUse, versionsOf } from '#core/cut'
import type { Question, Step, Take, Version } from '#core/folio'

/** The versions of one step beside each other. All are kept; one is in use. */
const props = defineProps<{ question: Question; take: Take; step: Step; name: string }>()
const emit = defineEmits<{ close: [] }>()
const proof = useProof()
const open = computed({ get: () => true, set: () => emit('close') })
const playing = ref<number | null>(null)
const step = computed(() => props.question.ledger?.steps.find(s => s.id === props.step.id) ?? props.step)

const what = (v: Version | null) => (v && remadeInWords(v)) || 'As it was first recorded'
const versions = computed(() =>
  [...(step.value.added ? [] : [null]), ...versionsOf(step.value)].map(version => ({
    version,
    alone: {
      ledger: stepAlone(props.question.ledger!, props.step.id, version),
      what: what(version),
      inUse: (versionInUse(step.value)?.id ?? null) === (version?.id ?? null),
    },
  })),
)
const use = (version: Version | null) =>
  proof.editStep(step.value.id, 'use another version of a step', s => useVersion(s, version))
</script>

<template>
  <UModal
    v-model:open="open"
    :title="`Versions of ${name}`"
    description="All of them are kept. Each plays on the board as it stands before the step."
    :ui="{ content: 'max-w-5xl' }"
  >
    <template #body>
      <ul
        class="grid grid-cols-2 gap-4"
        data-part="versions"
      >
        <TakeCard
          v-for="({ version, alone }, i) in versions"
          :key="version?.id ?? 'first'"
          :question="question"
          :take="take"
          :number="i + 1"
          :alone="alone"
          :playing="playing === i"
          @play="playing = $event ? i : null"
          @use="use(version)"
        />
      </ul>
    </template>
  </UModal>
</template>
