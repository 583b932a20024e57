<script setup lang="ts">
import { clockTime, type ReadHandIn } from '#core/publish'

/** What students handed in: opened from files, each at its question. */
const handIns = useHandIns()
const input = useTemplateRef('input')
async function choose(event: Event) {
  const field = event.target as HTMLInputElement
  const files = [...(field.files ?? [])]
  field.value = ''
  await handIns.open(files)
}
const about = (h: ReadHandIn) =>
  h.kind === 'stuck'
    ? `is stuck at ${clockTime(h.stuck.t)}${h.stuck.step ? `, “${h.stuck.step}”` : ''}`
    : `explained by ${h.by || 'a student'}, ${clockTime(h.lesson.duration)}`
</script>

<template>
  <section
    class="border border-(--rule) bg-default"
    data-part="hand-ins"
  >
    <header class="flex items-center border-b border-(--rule-fine) px-5 py-2.5">
      <h2 class="mr-auto text-lg font-semibold">From students</h2>
      <UButton
        color="neutral"
        variant="outline"
        icon="i-lucide-inbox"
        @click="input?.click()"
      >
        Open what was handed in
      </UButton>
      <input
        ref="input"
        type="file"
        accept=".json,application/json"
        multiple
        hidden
        @change="choose"
      />
    </header>
    <p
      v-if="!handIns.all.length"
      class="px-5 py-4 text-toned"
    >
      On the student page a student saves where she is stuck, or her own explanation, as a file. Open it here to see it
      on the board.
    </p>
    <ul v-else>
      <li
        v-for="h in handIns.all"
        :key="h.name"
        class="flex items-center gap-3 border-b border-(--rule-fine) px-5 py-2 last:border-b-0"
      >
        <button
          type="button"
          class="min-w-0 grow truncate text-left underline-offset-4 hover:underline"
          @click="handIns.show(h)"
        >
          <b>{{ h.question.number }}</b> {{ about(h) }}
        </button>
        <span class="truncate text-sm text-toned">{{ h.name }}</span>
        <UButton
          color="neutral"
          variant="ghost"
          icon="i-lucide-x"
          :aria-label="`Close ${h.name}`"
          @click="handIns.remove(h)"
        />
      </li>
    </ul>
    <HandInView v-if="handIns.shown" />
  </section>
</template>
