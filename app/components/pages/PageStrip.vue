<script setup lang="ts">
import { VueDraggable } from 'vue-draggable-plus'
import { movePage, type Page } from '#core/folio'

/** The folio's pages in small, in their order: dragged to another place, chosen, turned, taken out. */
const props = defineProps<{ chosen: string | null }>()
const emit = defineEmits<{ choose: [pageId: string] }>()
const store = useFolio()
const strip = ref<Page[]>([])
watch(
  () => store.folio?.pages,
  pages => {
    strip.value = [...(pages ?? [])]
  },
  { immediate: true },
)

function moved({ oldIndex, newIndex }: { oldIndex?: number; newIndex?: number }) {
  if (oldIndex === undefined || newIndex === undefined || oldIndex === newIndex) return
  store.change('move a page', draft => movePage(draft, oldIndex, newIndex))
}
/** Moves the chosen page by keyboard. */
function nudge(by: number) {
  const i = store.folio?.pages.findIndex(p => p.id === props.chosen) ?? -1
  const to = i + by
  if (i >= 0 && store.folio && to >= 0 && to < store.folio.pages.length)
    store.change('move a page', draft => movePage(draft, i, to))
}
defineExpose({ nudge })
</script>

<template>
  <nav
    class="flex min-h-0 flex-col border-r border-(--rule) bg-default"
    aria-label="Pages in small"
  >
    <VueDraggable
      v-model="strip"
      class="min-h-0 grow overflow-y-auto px-3 py-3"
      :animation="120"
      :disabled="store.readOnly"
      :delay="120"
      :delay-on-touch-only="true"
      @end="moved"
    >
      <button
        v-for="(page, i) in strip"
        :key="page.id"
        type="button"
        class="thumb mb-2.5 block w-full text-xs text-toned"
        :class="{ here: page.id === chosen }"
        :aria-label="`Page ${i + 1}`"
        :aria-current="page.id === chosen ? 'true' : undefined"
        data-part="thumb"
        @click="emit('choose', page.id)"
      >
        <PageThumb :page="page" />
        <span>{{ i + 1 }}{{ page.sheet ? ' · sheet' : '' }}</span>
      </button>
    </VueDraggable>
  </nav>
</template>

<style scoped>
.thumb :deep(canvas),
.thumb :deep(.empty) {
  border: 1px solid var(--rule);
  background: #fff;
}
.thumb.here :deep(canvas),
.thumb.here :deep(.empty) {
  outline: 3px solid var(--frame);
}
.thumb.here {
  color: var(--lead);
  font-weight: 700;
}
</style>
