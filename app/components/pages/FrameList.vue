<script setup lang="ts">
import { VueDraggable } from 'vue-draggable-plus'
import type { Frame, Question } from '#core/folio'

/** The frames of a question in the order in which students see them; also those that lie under others are reached here. */
const props = defineProps<{ question: Question }>()
const store = useFolio()
const pages = usePages()
const frames = computed(() => store.frames(props.question))
const proposed = computed(() => !props.question.frames.length)
const pageNumber = (frame: Frame) => (store.folio?.pages.findIndex(p => p.id === frame.pageId) ?? 0) + 1
const isScratch = (frame: Frame) => frame.pageId === props.question.scratch
const keyed = computed({
  get: () => frames.value.map((frame, i) => ({ frame, i })),
  set: next => {
    pages.setFrames(props.question, () => next.map(n => n.frame))
    pages.frame = null
  },
})
const chosen = (i: number) => pages.frame === `${props.question.id}/${i}`
function choose(i: number) {
  pages.frame = `${props.question.id}/${i}`
  pages.page = frames.value[i]!.pageId
}
function move(i: number, by: number) {
  const to = i + by
  if (to < 0 || to >= frames.value.length) return
  pages.setFrames(props.question, all => {
    const [frame] = all.splice(i, 1)
    all.splice(to, 0, frame!)
    return all
  })
  choose(to)
}
function only(i: number) {
  pages.setFrames(props.question, all => [all[i]!])
  choose(0)
}
const actions = (i: number) => [
  { label: 'Earlier', icon: 'i-lucide-arrow-up', disabled: i === 0, onSelect: () => move(i, -1) },
  { label: 'Later', icon: 'i-lucide-arrow-down', disabled: i === frames.value.length - 1, onSelect: () => move(i, 1) },
  { label: 'Only this one', icon: 'i-lucide-square', disabled: frames.value.length === 1, onSelect: () => only(i) },
  {
    label: 'Remove it',
    icon: 'i-lucide-x',
    disabled: frames.value.length === 1,
    onSelect: () => pages.removeFrame(props.question, i),
  },
]
</script>

<template>
  <section
    class="flex min-h-0 grow flex-col"
    aria-label="Frames of the question"
    data-part="frames"
  >
    <p class="px-4 py-3 text-sm text-toned">
      What students see of question {{ question.number }}, in this order. Draw another frame on the page; drag one to
      move it.
    </p>
    <VueDraggable
      v-model="keyed"
      tag="ol"
      handle=".grip"
      :disabled="store.readOnly"
      class="min-h-0 overflow-y-auto border-t border-default"
    >
      <li
        v-for="{ frame, i } in keyed"
        :key="i"
        class="flex min-h-11 items-center gap-2 border-b border-(--rule-fine) pr-1 pl-2"
        :class="{ 'bg-elevated': chosen(i) }"
      >
        <UIcon
          name="i-lucide-grip-vertical"
          class="grip size-4 shrink-0 cursor-grab text-dimmed"
        />
        <button
          type="button"
          class="min-h-11 min-w-0 grow text-left"
          :aria-pressed="chosen(i)"
          @click="choose(i)"
        >
          <b class="tabular-nums">{{ i + 1 }}</b>
          {{ isScratch(frame) ? 'scratch page' : `page ${pageNumber(frame)}` }}
        </button>
        <UDropdownMenu :items="actions(i)">
          <UButton
            color="neutral"
            variant="ghost"
            class="size-9 justify-center"
            icon="i-lucide-ellipsis-vertical"
            :aria-label="`Change frame ${i + 1}`"
            title="Order, only this one, remove"
            :disabled="store.readOnly"
          />
        </UDropdownMenu>
      </li>
    </VueDraggable>
    <p
      v-if="!frames.length"
      class="px-4 py-3 text-sm"
    >
      There is none yet: draw a rectangle on the page.
    </p>
    <div class="flex items-center gap-2 px-4 py-3 text-sm text-toned">
      <span class="grow">{{ proposed ? 'As proposed from the question’s place.' : 'Set by hand.' }}</span>
      <UButton
        v-if="!proposed"
        color="neutral"
        variant="outline"
        size="sm"
        :disabled="store.readOnly"
        @click="pages.setFrames(question, () => [])"
      >
        As proposed
      </UButton>
    </div>
  </section>
</template>
