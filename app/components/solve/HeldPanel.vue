<script setup lang="ts">
import { VueDraggable } from 'vue-draggable-plus'
import type { HeldLine } from '#core/folio'

/** Working prepared before a take, in the order in which it is revealed. */
const bench = useBench()
const lines = useLines()
const store = useFolio()
const list = computed({
  get: () => [...bench.held],
  set: (next: HeldLine[]) =>
    bench.changeHeld('reorder the held lines', all =>
      all.splice(0, all.length, ...(JSON.parse(JSON.stringify(next)) as HeldLine[])),
    ),
})
const isWaiting = (id: string) => bench.waiting.some(h => h.id === id)
const nextId = computed(() => bench.waiting.find(h => h.pageId === bench.page?.id)?.id)
const turn = (id: string) =>
  bench.changeHeld('change how a line appears', all =>
    all.forEach(h => {
      if (h.id === id) h.how = h.how === 'writing' ? 'at once' : 'writing'
    }),
  )
const drop = (id: string) =>
  bench.changeHeld('drop a held line', all => {
    all.splice(
      all.findIndex(h => h.id === id),
      1,
    )
  })
function move(id: string, by: number) {
  bench.changeHeld('move a held line', all => {
    const i = all.findIndex(h => h.id === id)
    const [line] = all.splice(i, 1)
    all.splice(Math.max(0, Math.min(all.length, i + by)), 0, line!)
  })
}
const guides = useGuides()
function edit(line: HeldLine) {
  if (bench.live) return
  if (line.thing.kind === 'line') lines.editLine('', line.thing, line.id)
  else guides.editHeld(line)
}
const canEdit = (line: HeldLine) => ['line', 'guide', 'figure'].includes(line.thing.kind)
const duplicate = (id: string) =>
  bench.changeHeld('duplicate a held line', all => {
    const i = all.findIndex(h => h.id === id)
    all.splice(i + 1, 0, bench.copyOfHeld(all[i]!))
  })
/** What can be done with a held line, in words. */
const actions = (line: HeldLine, i: number) => [
  ...(canEdit(line) ? [{ label: 'Edit', icon: 'i-lucide-pencil', onSelect: () => (next = () => edit(line)) }] : []),
  { label: 'Duplicate', icon: 'i-lucide-copy', onSelect: () => duplicate(line.id) },
  {
    label: line.how === 'writing' ? 'Let it appear at once' : 'Let it be written',
    icon: line.how === 'writing' ? 'i-lucide-zap' : 'i-lucide-pen-line',
    onSelect: () => turn(line.id),
  },
  { label: 'Earlier', icon: 'i-lucide-arrow-up', disabled: i === 0, onSelect: () => move(line.id, -1) },
  {
    label: 'Later',
    icon: 'i-lucide-arrow-down',
    disabled: i === bench.held.length - 1,
    onSelect: () => move(line.id, 1),
  },
  { label: 'Drop it', icon: 'i-lucide-x', onSelect: () => drop(line.id) },
]
/** What was chosen that needs the keys: it begins once the menu has let go of them. */
let next: (() => void) | null = null
function toBoard(event: Event) {
  event.preventDefault()
  next?.()
  next = null
}
function drag(event: DragEvent, line: HeldLine) {
  event.dataTransfer?.setData('text/x-held', line.id)
}
function addPicture(event: Event) {
  const input = event.target as HTMLInputElement
  void bench.holdPicture([...(input.files ?? [])])
  input.value = ''
}
</script>

<template>
  <section
    class="flex min-h-0 flex-col border-t border-default"
    aria-label="Held lines"
    data-part="held"
  >
    <header class="flex items-center gap-1 py-2 pr-2 pl-4">
      <h2 class="mr-auto text-base font-semibold whitespace-nowrap">Held lines</h2>
      <label
        v-if="!bench.live && !store.readOnly"
        class="grid size-9 cursor-pointer place-items-center hover:bg-elevated"
        title="Hold a picture"
      >
        <UIcon
          name="i-lucide-image-plus"
          class="size-5"
        /><span class="sr-only">Hold a picture</span>
        <input
          type="file"
          accept="image/png,image/jpeg,image/webp"
          class="sr-only"
          @change="addPicture"
        />
      </label>
      <UButton
        size="sm"
        color="neutral"
        variant="outline"
        class="h-9"
        :disabled="!nextId"
        title="Reveal the next held line"
        @click="bench.reveal()"
      >
        Reveal <kbd class="key">H</kbd>
      </UButton>
    </header>
    <p
      v-if="!bench.held.length"
      class="px-4 pb-3 text-sm text-toned"
    >
      Lines, guides and figures that you place before the take wait here, and come when you press
      <kbd class="key">H</kbd>.
    </p>
    <VueDraggable
      v-else
      v-model="list"
      tag="ol"
      handle=".grip"
      :disabled="bench.live || store.readOnly"
      class="min-h-0 overflow-y-auto"
    >
      <li
        v-for="line in list"
        :key="line.id"
        class="group flex min-h-11 items-center gap-1 border-t border-(--rule-fine) pr-1 pl-2"
        :class="{ 'bg-elevated': line.id === nextId }"
      >
        <UIcon
          v-if="!bench.live"
          name="i-lucide-grip-vertical"
          class="grip size-4 shrink-0 cursor-grab text-dimmed"
        />
        <button
          type="button"
          class="min-h-11 min-w-0 grow truncate text-left text-sm"
          :class="{ 'text-dimmed': !isWaiting(line.id) }"
          :title="
            bench.live
              ? `Reveal “${line.name}”; drag it to another place of the page`
              : 'Drag it to its place on the page'
          "
          draggable="true"
          @dragstart="drag($event, line)"
          @click="bench.reveal(line.id)"
          @dblclick="edit(line)"
        >
          {{ isWaiting(line.id) ? '' : '✓ ' }}{{ line.name }}
        </button>
        <UDropdownMenu
          v-if="!bench.live && !store.readOnly"
          :items="actions(line, list.indexOf(line))"
          :content="{ onCloseAutoFocus: toBoard }"
        >
          <UButton
            size="xs"
            color="neutral"
            variant="ghost"
            class="size-9 justify-center"
            icon="i-lucide-ellipsis-vertical"
            :aria-label="`Change “${line.name}”`"
            title="Edit, duplicate, how it appears, order, drop"
          />
        </UDropdownMenu>
      </li>
    </VueDraggable>
  </section>
</template>
