<script setup lang="ts">
import type { Question } from '#core/folio'

/** Beside the pages: the questions, their answers, and the plan of the folio. */
defineProps<{ current?: Question; adding: boolean }>()
const emit = defineEmits<{ select: [id: string]; another: [id: string]; bring: [] }>()
const store = useFolio()
const pages = usePages()
const tab = ref('questions')
const tabs = [
  { label: 'Questions', value: 'questions' },
  { label: 'Answers', value: 'answers' },
  { label: 'Plan', value: 'plan' },
]
</script>

<template>
  <aside class="flex min-h-0 flex-col border-l border-(--rule) bg-default">
    <header class="flex items-center justify-between border-b border-default pl-2 pr-1">
      <div
        class="flex"
        role="tablist"
        aria-label="Beside the pages"
      >
        <button
          v-for="t in tabs"
          :key="t.value"
          type="button"
          role="tab"
          class="tab px-2.5 py-3"
          :class="{ here: tab === t.value }"
          :aria-selected="tab === t.value"
          @click="tab = t.value"
        >
          {{ t.label }}
        </button>
      </div>
      <UndoRedo />
    </header>
    <FrameList
      v-if="tab === 'questions' && pages.tool === 'frame' && current"
      :question="current"
    />
    <QuestionList
      v-else-if="tab === 'questions'"
      :current="current"
      :adding="adding"
      @select="emit('select', $event)"
      @another="emit('another', $event)"
    />
    <KeyPanel
      v-else-if="tab === 'answers'"
      @select="emit('select', $event)"
    />
    <PlanPanel v-else />
    <footer class="flex gap-2 border-t border-default p-3">
      <UButton
        class="ml-auto"
        :disabled="!store.questions.length"
        trailing-icon="i-lucide-arrow-right"
        @click="navigateTo({ path: `/folio/${store.folio!.id}/solve`, query: current ? { q: current.id } : {} })"
      >
        Solve
      </UButton>
    </footer>
  </aside>
</template>

<style scoped>
.tab {
  color: var(--lead-soft);
  position: relative;
  cursor: pointer;
}
.tab.here {
  color: var(--lead);
  font-weight: 700;
}
.tab.here::after {
  content: '';
  position: absolute;
  left: 0;
  right: 0;
  bottom: -1px;
  height: 3px;
  background: var(--frame);
}
</style>
