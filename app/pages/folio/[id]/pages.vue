<script setup lang="ts">
import {
  acceptProposals,
  addPatch,
  asFrame,
  insertSpace,
  mergeIntoPrevious,
  makePart,
  newId,
  renumberFrom,
  splitQuestion,
  type Box,
  type Page,
  type Question,
} from '#core/folio'
import type { SheetItem } from '../../../components/pages/PageSheet.vue'
import type PageStripComponent from '../../../components/pages/PageStrip.vue'

const props = defineProps<{ current?: Question }>()
const store = useFolio()
const incoming = useIncoming()
const pages = usePages()
const route = useRoute()
const area = ref<HTMLElement>()
const file = ref<HTMLInputElement>()
const strip = ref<InstanceType<typeof PageStripComponent>>()
const over = ref(false)
const adding = ref<string | null>(null)
const { width } = useElementSize(area)
const sheetWidth = computed(() => Math.max(320, Math.min(760, Math.round(width.value) - 64)))
/** Default room, points: about eight squares. */
const ROOM = 113

function select(id: string) {
  if (route.query.q !== id) void navigateTo({ path: route.path, query: { q: id } }, { replace: true })
}
function itemsOn(page: Page): SheetItem[] {
  const patches = page.patches.map(
    (p): SheetItem => ({
      id: p.id,
      kind: 'patch',
      box: p.box,
      label: '',
      selected: pages.tool === 'patch',
      droppable: true,
    }),
  )
  if (pages.tool === 'frame' && props.current) {
    return store
      .frames(props.current)
      .map(
        (f, i, all): SheetItem => ({
          id: `${props.current!.id}/${i}`,
          kind: 'frame',
          box: f.box,
          label: all.length > 1 ? `${i + 1}` : '',
          selected: pages.frame === `${props.current!.id}/${i}` || all.length === 1,
          keep: true,
          droppable: all.length > 1,
          proposed: !props.current!.frames.length,
        }),
      )
      .filter((_, i) => store.frames(props.current!)[i]!.pageId === page.id)
  }
  return [
    ...store.questions.flatMap(q =>
      q.regions
        .filter(r => r.pageId === page.id)
        .map(
          (r): SheetItem => ({
            id: `${q.id}/${r.id}`,
            kind: 'region',
            box: r.box,
            label: q.number,
            selected: q.id === props.current?.id,
            proposed: q.proposal !== null,
            droppable: q.regions.length > 1,
          }),
        ),
    ),
    ...patches,
  ]
}
const signsOn = (page: Page) =>
  pages.tool === 'frame'
    ? []
    : [...(props.current?.parts ?? []), ...(props.current?.options ?? [])].flatMap(p =>
        p.place?.pageId === page.id ? [{ id: p.id, box: p.place.box, label: p.label }] : [],
      )
const modeOf = computed(() =>
  pages.tool === 'split' ? ('split' as const) : pages.tool === 'room' ? ('room' as const) : ('draw' as const),
)

function draw(pageId: string, box: Box) {
  const into = adding.value
  adding.value = null
  if (pages.tool === 'patch') return void pages.askPatch(pageId, box)
  if (pages.tool === 'frame') return props.current && setFrames(all => [...all, { pageId, box: asFrame(box) }])
  if (into) return store.changeQuestion(into, 'add a region', q => q.regions.push({ id: newId(), pageId, box }))
  const id = store.addQuestion(pageId, box)
  select(id)
  void nextTick(() => document.getElementById(`title-${id}`)?.focus())
}
function setFrames(edit: (frames: Question['frames']) => Question['frames']) {
  if (props.current) pages.setFrames(props.current, edit)
}
function place(item: SheetItem, box: Box) {
  const [owner, id] = item.id.split('/') as [string, string]
  if (item.kind === 'patch')
    return store.change('move the patch', f => {
      for (const p of f.pages) for (const x of p.patches) if (x.id === item.id) x.box = box
    })
  if (item.kind === 'frame') return setFrames(all => all.map((f, i) => (i === Number(id) ? { ...f, box } : f)))
  store.changeQuestion(owner, 'move the region', q => {
    q.regions.find(r => r.id === id)!.box = box
    q.proposal = null
  })
}
function drop(item: SheetItem) {
  const [owner, id] = item.id.split('/') as [string, string]
  if (item.kind === 'patch')
    store.change('take the patch off', f => {
      for (const p of f.pages) p.patches = p.patches.filter(x => x.id !== item.id)
    })
  else if (item.kind === 'frame') pages.removeFrame(props.current!, Number(id))
  else
    store.changeQuestion(owner, 'remove a region', q => {
      q.regions = q.regions.filter(r => r.id !== id)
    })
}
function choose(item: SheetItem) {
  if (item.kind === 'frame') pages.frame = item.id
  else if (item.kind === 'region') select(item.id.split('/')[0]!)
}
/** A line on the page: where a question is split in two, or where room is made. */
function line(page: Page, y: number, size: number) {
  if (pages.tool === 'room')
    store.change('make room', f => insertSpace(f, page.id, { side: 'below', y, size: size > 12 ? size : ROOM }))
  else {
    const hit = store.questions
      .flatMap(q => q.regions.map(r => ({ q, r })))
      .find(({ r }) => r.pageId === page.id && y > r.box.y + 8 && y < r.box.y + r.box.h - 8)
    if (!hit) return
    let id: string | null = null
    store.change('split the question in two', f => {
      id = splitQuestion(f, hit.q.id, hit.r.id, y)
    })
    if (id) select(id)
  }
  pages.tool = 'regions'
}
const bringIn = (list: FileList | File[] | null | undefined) => {
  const files = [...(list ?? [])]
  if (file.value) file.value.value = ''
  if (files.length) void incoming.bringIn(files)
}
function dropped(event: DragEvent) {
  over.value = false
  bringIn(event.dataTransfer?.files)
}
function edit(label: string, run: (folio: NonNullable<typeof store.folio>, id: string) => unknown) {
  const q = props.current
  if (!q || store.readOnly) return
  const before = store.questions[store.questions.findIndex(x => x.id === q.id) - 1]
  store.change(label, draft => run(draft, q.id))
  if (!store.questions.some(x => x.id === q.id) && before) select(before.id)
}
function remove() {
  const question = props.current
  if (!question) return
  if (pages.tool === 'regions') store.removeQuestion(question.id)
  else if (pages.tool === 'frame' && pages.frame?.startsWith(`${question.id}/`))
    pages.removeFrame(question, Number(pages.frame.split('/')[1]))
}
useEventListener(window, 'paste', (event: ClipboardEvent) => {
  if (event.target instanceof Element && event.target.closest('input, textarea')) return
  const files = [...(event.clipboardData?.files ?? [])]
  if (files.length)
    bringIn(
      files.map((f, i) =>
        f.name && f.name !== 'image.png'
          ? f
          : new File([f], `Pasted picture ${new Date().toLocaleTimeString()}${i ? ` ${i + 1}` : ''}.png`, {
              type: f.type,
            }),
      ),
    )
})

/** The page that most is seen of; the chosen one stays chosen while a good part of it is in sight. */
function look() {
  const { scrollTop = 0, clientHeight = 0 } = area.value ?? {}
  const sheets = [...(area.value?.querySelectorAll<HTMLElement>('[data-page]') ?? [])]
  const seen = sheets.map(
    s => Math.min(s.offsetTop + s.offsetHeight, scrollTop + clientHeight) - Math.max(s.offsetTop, scrollTop),
  )
  const most = Math.max(...seen),
    own = seen[sheets.findIndex(s => s.dataset.page === pages.page)] ?? 0
  if (own < 0.6 * most || !pages.page) pages.page = sheets[seen.indexOf(most)]?.dataset.page ?? null
}
function goTo(pageId: string) {
  pages.page = pageId
  const sheet = area.value?.querySelector<HTMLElement>(`[data-page="${pageId}"]`)
  if (sheet) area.value!.scrollTo({ top: sheet.offsetTop - 16 })
}
watch(
  () => store.folio?.pages.length,
  () => {
    void nextTick(look)
  },
  { immediate: true },
)
/** Brings the chosen question into view, at once: a moving page would be missed by the next click. */
function showCurrent() {
  const id = props.current?.id
  const region = props.current?.regions[0]
  if (!id || !region || !area.value) return
  const sheet = area.value.querySelector<HTMLElement>(`[data-page="${region.pageId}"]`)
  if (!sheet) return
  const top =
    sheet.offsetTop +
    region.box.y * (sheetWidth.value / (store.folio!.pages.find(p => p.id === region.pageId)?.width ?? 595))
  const { scrollTop, clientHeight } = area.value
  if (top < scrollTop || top > scrollTop + clientHeight - 120) area.value.scrollTo({ top: top - 60 })
}
watch(
  () => props.current?.id,
  () => showCurrent(),
)
// The pages have their size only when that of their place is known, and on a busy machine that comes to rest late.
const stopShowing = watch(width, showCurrent, { flush: 'post' })
useTimeoutFn(stopShowing, 2000)
watch(
  () => incoming.shown,
  id => id && nextTick(() => goTo(id)),
)
const proposed = computed(() => store.questions.filter(q => q.proposal !== null))
const takeAll = () => store.change('take the questions as found', draft => acceptProposals(draft))
const takeNone = () =>
  store.change('leave out what was found', draft => {
    draft.questions = draft.questions.filter(q => q.proposal === null)
  })
function nudge(by: number) {
  strip.value?.nudge(by)
  if (pages.page) void nextTick(() => goTo(pages.page!))
}
const tool = (name: typeof pages.tool) => {
  pages.tool = pages.tool === name ? 'regions' : name
}
const clean = ref<string | null>(null)
/** A photo among the pages without text that was not straightened yet. */
const photo = computed(() =>
  store.folio?.pages.find(p => p.kind === 'image' && !p.original && incoming.lastSearch?.withoutText.includes(p.id)),
)
const cleanable = computed(() => store.folio?.pages.find(p => p.id === pages.page && p.kind === 'image'))

useStageKeys('Pages', [
  { key: 'b', label: 'Bring in files', run: () => file.value?.click() },
  { key: 'n', label: 'A blank page after this one', run: () => pages.addBlank() },
  {
    key: 'f',
    label: 'Find the questions',
    run: () => {
      void pages.find()
    },
  },
  { key: 'a', label: 'Take the questions as found', run: takeAll, when: () => proposed.value.length > 0 },
  { key: 'c', label: 'Split a question in two', run: () => tool('split') },
  { key: 'j', label: 'Join the question to the one before', run: () => edit('join the questions', mergeIntoPrevious) },
  { key: 'm', label: 'Make the question a part of the one before', run: () => edit('make it a part', makePart) },
  {
    key: 'u',
    label: 'Count on from the chosen question',
    run: () =>
      edit('number anew', (draft, id) => renumberFrom(draft, id, draft.questions.find(q => q.id === id)!.number)),
  },
  {
    key: 'g',
    label: 'Another region for the chosen question',
    run: () => {
      adding.value = props.current?.id ?? null
    },
  },
  { key: 'r', label: 'Make room below a line', run: () => tool('room') },
  { key: 'h', label: 'Patch a misprint', run: () => tool('patch') },
  { key: 'i', label: 'Frames of the chosen question', run: () => tool('frame') },
  { key: 'Delete', label: 'Remove the chosen question or frame', run: remove },
  { key: 't', label: 'Turn the page', run: () => pages.turn() },
  { key: 'alt+ArrowUp', label: 'Move the page up', run: () => nudge(-1) },
  { key: 'alt+ArrowDown', label: 'Move the page down', run: () => nudge(1) },
  { key: 'ctrl+z', label: 'Undo', run: store.undo },
  { key: 'ctrl+y', label: 'Redo', run: store.redo },
  {
    key: 'Escape',
    label: 'Leave off',
    run: () => {
      adding.value = null
      pages.tool = 'regions'
    },
  },
])
onBeforeUnmount(() => {
  pages.tool = 'regions'
})
</script>

<template>
  <div class="grid h-full grid-cols-[6.75rem_minmax(0,1fr)_20.5rem]">
    <PageStrip
      ref="strip"
      :chosen="pages.page"
      @choose="goTo"
    />
    <div class="grid min-h-0 min-w-0 grid-rows-[auto_auto_1fr]">
      <PageTools
        :cleanable="Boolean(cleanable)"
        @bring="file?.click()"
        @clean="clean = cleanable?.id ?? null"
      />
      <div class="min-h-0">
        <p
          v-if="incoming.importing"
          class="flex items-center gap-4 border-b border-(--rule-fine) bg-default px-4 py-2.5"
          role="status"
        >
          <span class="truncate">{{ incoming.importing.what }}</span>
          <UProgress
            :model-value="incoming.importing.done"
            :max="incoming.importing.total"
            class="w-48 shrink-0"
          />
          <UButton
            v-if="incoming.importing.what.startsWith('Looking')"
            color="neutral"
            variant="ghost"
            size="sm"
            @click="incoming.stopSearch"
          >
            Stop
          </UButton>
        </p>
        <p
          v-else-if="proposed.length"
          class="flex items-center gap-3 border-b border-(--rule-fine) bg-default px-4 py-2"
          role="status"
          data-part="proposal"
        >
          <span class="mr-auto"
            ><b>{{ proposed.length }} {{ proposed.length === 1 ? 'question' : 'questions' }}</b> found. Check the dashed
            boxes, then take them.</span
          >
          <UButton
            color="neutral"
            variant="ghost"
            @click="takeNone"
          >
            None of them
          </UButton>
          <UButton
            icon="i-lucide-check"
            @click="takeAll"
          >
            Take all <kbd class="key">A</kbd>
          </UButton>
        </p>
        <p
          v-else-if="incoming.lastSearch && (incoming.lastSearch.withoutText.length || !incoming.lastSearch.found)"
          class="flex items-center gap-3 border-b border-(--rule-fine) bg-default px-4 py-2"
          role="status"
        >
          <span class="mr-auto">{{
            incoming.lastSearch.scanned
              ? 'No question could be read there. Draw a rectangle round each one.'
              : incoming.lastSearch.withoutText.length
                ? `${incoming.lastSearch.withoutText.length === 1 ? 'A page has' : `${incoming.lastSearch.withoutText.length} pages have`} no text in ${incoming.lastSearch.withoutText.length === 1 ? 'it' : 'them'}: a scan or a photo.`
                : 'No questions were found. Draw a rectangle round each one.'
          }}</span>
          <UButton
            v-if="photo"
            icon="i-lucide-crop"
            variant="outline"
            @click="clean = photo.id"
          >
            Straighten the photo
          </UButton>
          <UButton
            v-if="incoming.lastSearch.withoutText.length && !incoming.lastSearch.scanned"
            icon="i-lucide-scan-text"
            @click="incoming.findQuestions(incoming.lastSearch.withoutText, true)"
          >
            Read the scan
          </UButton>
          <UButton
            color="neutral"
            variant="ghost"
            @click="incoming.lastSearch = null"
          >
            Draw by hand
          </UButton>
        </p>
      </div>
      <div
        ref="area"
        class="squared relative overflow-y-auto px-4 py-5"
        :class="{ over }"
        data-part="page-area"
        tabindex="0"
        aria-label="Pages of the folio"
        @scroll.passive="look"
        @dragover.prevent="over = true"
        @dragleave="over = false"
        @drop.prevent="dropped"
      >
        <input
          ref="file"
          type="file"
          accept="application/pdf,.pdf,image/jpeg,image/png,image/webp"
          multiple
          class="hidden"
          aria-label="PDF files and pictures"
          @change="bringIn(($event.target as HTMLInputElement).files)"
        />
        <div
          v-if="!store.folio?.pages.length"
          class="mx-auto mt-16 max-w-md border border-dashed border-(--rule) bg-(--paper) p-8 text-center"
        >
          <h1 class="text-2xl font-semibold">Begin with the page</h1>
          <p class="my-4 text-toned">
            Drop the worksheet here: a PDF, a photo, or several. Pictures can also be pasted. The files themselves stay
            as they are.
          </p>
          <UButton
            size="lg"
            icon="i-lucide-file-up"
            @click="file?.click()"
          >
            Bring in files <kbd class="key">B</kbd>
          </UButton>
        </div>
        <div
          v-for="(page, i) in store.folio?.pages"
          :key="page.id"
          :data-page="page.id"
        >
          <PageSheet
            :page="page"
            :number="i + 1"
            :width="sheetWidth"
            :items="itemsOn(page)"
            :signs="signsOn(page)"
            :mode="modeOf"
            :read-only="store.readOnly"
            @draw="draw(page.id, $event)"
            @place="place"
            @select="choose"
            @drop="drop"
            @line="(y, size) => line(page, y, size)"
          />
        </div>
      </div>
    </div>
    <PagesPanel
      :current="current"
      :adding="adding !== null"
      @select="select"
      @another="adding = $event"
      @bring="file?.click()"
    />
    <PhotoCleaner
      v-if="clean"
      :page-id="clean"
      @close="clean = null"
    />
    <PatchDialog
      v-if="pages.patching"
      :patch="pages.patching"
      @done="
        patch =>
          store.change('patch the page', f => {
            addPatch(f, pages.patching!.pageId, patch)
          })
      "
      @close="pages.patching = null"
    />
  </div>
</template>

<style scoped>
.over {
  outline: 3px dashed var(--frame);
  outline-offset: -8px;
}
</style>
