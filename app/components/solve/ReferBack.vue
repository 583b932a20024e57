<script setup lang="ts">
import { questionName, type Question } from '#core/folio'

/** Refers to an earlier question while another is being solved, and goes back. */
defineProps<{ referred: Question | null; others: readonly Question[] }>()
const emit = defineEmits<{ refer: [question: Question | null] }>()
</script>

<template>
  <div
    class="flex flex-wrap items-center gap-1 border border-(--frame) bg-default p-1.5 text-sm"
    data-part="refer"
  >
    <template v-if="referred">
      <span class="px-2">Looking at {{ questionName(referred) }}</span>
      <UButton
        class="h-11"
        icon="i-lucide-corner-up-left"
        @click="emit('refer', null)"
      >
        Back <kbd class="key">Q</kbd>
      </UButton>
    </template>
    <template v-else>
      <span class="px-2">Refer to</span>
      <UButton
        v-for="q in others"
        :key="q.id"
        color="neutral"
        variant="outline"
        class="h-11 min-w-11 justify-center"
        :title="questionName(q)"
        @click="emit('refer', q)"
      >
        {{ q.number }}
      </UButton>
    </template>
  </div>
</template>
