<script setup lang="ts">
import { newId, questionName, type Box, type Question } from '#core/folio'

const props = defineProps<{ current?: Question }>()
const store = useFolio()
const route = useRoute()
const area = ref<HTMLElement>()
const file = ref<HTMLInputElement>()
const over = ref(false)
const adding = ref<string | null>(null)
const { width } = useElementSize(area)
const sheetWidth = computed(() => Math.max(320, Math.min(760, Math.round(width.value) - 90)))

function select(id: string) {
  if (route.query.q !== id) void navigateTo({ path: route.path, query: { q: id } }, { replace: true })
}
function draw(pageId: string, box: Box) {
  const into = adding.value
  adding.value = null
  if (into) return store.changeQuestion(into, 'add a region', q => q.regions.push({ id: newId(), pageId, box }))
  const id = store.addQuestion(pageId, box)
  select(id)
  void nextTick(() => document.getElementById(`title-${id}`)?.focus())
}
function place(questionId: string, regionId: string, box: Box) {
  store.changeQuestion(questionId, 'move the region', (q) => { q.regions.find(r => r.id === regionId)!.box = box })
}
function dropRegion(questionId: string, regionId: string) {
  store.changeQuestion(questionId, 'remove a region', (q) => { q.regions = q.regions.filter(r => r.id !== regionId) })
}
function rename(id: string, key: 'number' | 'title', event: Event) {
  const value = (event.target as HTMLInputElement).value.trim()
  store.changeQuestion(id, `change the ${key}`, (q) => { q[key] = value || (key === 'number' ? q.number : '') })
}
function bringIn(files: FileList | null | undefined) {
  const list = [...files ?? []]
  if (file.value) file.value.value = ''
  if (list.length) void store.bringIn(list)
}
function remove() {
  if (props.current) store.removeQuestion(props.current.id)
}
watch(() => props.current?.id, (id) => {
  const region = props.current?.regions[0]
  if (!id || !region || !area.value) return
  const sheet = area.value.querySelector<HTMLElement>(`[data-page="${region.pageId}"]`)
  if (!sheet) return
  const top = sheet.offsetTop + region.box.y * (sheetWidth.value / (store.folio!.pages.find(p => p.id === region.pageId)?.width ?? 595))
  const { scrollTop, clientHeight } = area.value
  if (top < scrollTop || top > scrollTop + clientHeight - 120) area.value.scrollTo({ top: top - 60, behavior: 'smooth' })
})
useStageKeys('Pages', [
  { key: 'b', label: 'Bring in a PDF', run: () => file.value?.click() },
  { key: 'ctrl+z', label: 'Undo', run: store.undo },
  { key: 'ctrl+y', label: 'Redo', run: store.redo },
  { key: 'Delete', label: 'Remove the chosen question', run: remove },
  { key: 'g', label: 'Another region for the chosen question', run: () => { adding.value = props.current?.id ?? null } },
  { key: 'Escape', label: 'Leave off', run: () => { adding.value = null } },
])
</script>

<template>
  <div class="grid h-full grid-cols-[1fr_19.5rem]">
    <div
      ref="area"
      class="squared relative overflow-y-auto px-4 py-6"
      :class="{ over }"
      data-part="page-area"
      tabindex="0"
      aria-label="Pages of the folio"
      @dragover.prevent="over = true"
      @dragleave="over = false"
      @drop.prevent="over = false; bringIn($event.dataTransfer?.files)"
    >
      <input
        ref="file"
        type="file"
        accept="application/pdf,.pdf"
        multiple
        class="hidden"
        aria-label="PDF file"
        @change="bringIn(($event.target as HTMLInputElement).files)"
      >
      <p
        v-if="store.importing"
        class="mb-4 flex items-center gap-4 bg-default p-3"
        role="status"
      >
        <span class="truncate">Reading {{ store.importing.name }}</span>
        <UProgress class="w-48 shrink-0" />
      </p>
      <div
        v-if="!store.folio?.pages.length"
        class="mx-auto mt-16 max-w-md border border-dashed border-(--rule) bg-(--paper) p-8 text-center"
      >
        <h1 class="text-2xl font-semibold">
          Begin with the page
        </h1>
        <p class="my-4 text-toned">
          Drop the worksheet here as a PDF, or choose it. The file itself stays as it is.
        </p>
        <UButton
          size="lg"
          icon="i-lucide-file-up"
          @click="file?.click()"
        >
          Bring in a PDF <kbd class="key">B</kbd>
        </UButton>
      </div>
      <div
        v-for="page, i in store.folio?.pages"
        :key="page.id"
        :data-page="page.id"
      >
        <PageSheet
          :page="page"
          :number="i + 1"
          :width="sheetWidth"
          :questions="store.questions"
          :selected="current?.id ?? null"
          :read-only="store.readOnly"
          @draw="draw(page.id, $event)"
          @place="place"
          @select="select"
          @drop-region="dropRegion"
        />
      </div>
    </div>

    <aside class="flex min-h-0 flex-col border-l border-(--rule) bg-default">
      <header class="border-b border-default px-4 py-3">
        <div class="flex items-center justify-between">
          <h2 class="text-lg font-semibold">
            Questions
          </h2>
          <div>
            <UndoRedo />
          </div>
        </div>
        <p class="text-sm text-toned">
          {{ adding ? 'Draw the further region now. Escape leaves it.' : 'Draw a rectangle on the page round each question, with the room you need for writing.' }}
        </p>
      </header>
      <ol class="min-h-0 grow overflow-y-auto">
        <li
          v-for="q in store.questions"
          :key="q.id"
          class="row border-b border-(--rule-fine) px-4 py-3"
          :class="{ here: q.id === current?.id }"
          data-part="question-row"
          @pointerdown="select(q.id)"
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
          <div class="mt-1.5 flex items-center justify-between text-sm text-toned">
            <span class="flex items-center gap-1.5"><StateMark :stage="store.stages.get(q.id) ?? 'not started'" />{{ store.stages.get(q.id) }}{{ q.regions.length > 1 ? `, ${q.regions.length} regions` : '' }}</span>
            <span v-if="q.id === current?.id && !store.readOnly">
              <UButton
                color="neutral"
                variant="ghost"
                size="sm"
                icon="i-lucide-square-plus"
                title="Another region for this question (G)"
                :aria-label="`Another region for question ${q.number}`"
                @click="adding = q.id"
              />
              <UButton
                color="neutral"
                variant="ghost"
                size="sm"
                icon="i-lucide-trash-2"
                title="Remove (Delete); undo brings it back"
                :aria-label="`Remove ${questionName(q)}`"
                @click="store.removeQuestion(q.id)"
              />
            </span>
          </div>
        </li>
      </ol>
      <footer class="flex gap-2 border-t border-default p-3">
        <UButton
          color="neutral"
          variant="outline"
          icon="i-lucide-file-up"
          :disabled="store.readOnly"
          @click="file?.click()"
        >
          Bring in a PDF <kbd class="key">B</kbd>
        </UButton>
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
  </div>
</template>

<style scoped>
.over { outline: 3px dashed var(--frame); outline-offset: -8px; }
.row.here { box-shadow: inset 4px 0 0 var(--frame); background: var(--ui-bg-elevated); }
</style>
