<script setup lang="ts">
import { insertSpace, newId, newQuestion, Page, PAPERS, type Paper } from '#core/folio'
import type { PageTool } from '~/stores/pages'

/** What can be done to pages: bring in, add, turn, take out; and the tool that the pointer holds. */
defineProps<{ cleanable: boolean }>()
const emit = defineEmits<{ bring: []; clean: [] }>()
const store = useFolio()
const pages = usePages()
const settings = useSettings()
const TOOLS: { id: PageTool; label: string; key: string; icon: string; title: string }[] = [
  {
    id: 'regions',
    label: 'Questions',
    key: 'Esc',
    icon: 'i-lucide-square-dashed',
    title: 'Draw and move the rectangles of questions',
  },
  { id: 'split', label: 'Split', key: 'C', icon: 'i-lucide-scissors', title: 'Split a question in two at a line' },
  {
    id: 'room',
    label: 'Room',
    key: 'R',
    icon: 'i-lucide-unfold-vertical',
    title: 'Make room below a line: click, or drag down for as much as you want',
  },
  { id: 'patch', label: 'Patch', key: 'H', icon: 'i-lucide-bandage', title: 'Cover a misprint and type it anew' },
  {
    id: 'frame',
    label: 'Frame',
    key: 'I',
    icon: 'i-lucide-frame',
    title: 'See and set what students see of the chosen question',
  },
]
const PAPER_NAMES: Record<Paper, string> = { squared: 'Squared', lined: 'Lined', dotted: 'Dotted', plain: 'Plain' }
const blanks = computed(() =>
  [false, true]
    .map(dark =>
      PAPERS.map(paper => ({
        label: `${PAPER_NAMES[paper]}${dark ? ', dark' : ''}`,
        onSelect: () => pages.addBlank(paper, dark),
      })),
    )
    .concat([
      [
        {
          label: 'Opening notice, from the plan',
          onSelect: () => {
            pages.add('add the opening notice', { kind: 'notice', width: 841.89, height: 473.56 }, 0)
            makeNoticeQuestion()
          },
        },
      ],
    ]),
)

/** The notice is recorded like a question, before the first. */
function makeNoticeQuestion() {
  const notice = store.folio?.pages[0]
  if (notice?.kind !== 'notice') return
  store.change('make the notice a question', draft => {
    draft.questions.unshift({
      ...newQuestion('0', notice.id, { x: 0, y: 0, w: notice.width, h: notice.height }),
      title: 'What this is about',
    })
  })
}
const more = computed(() => [
  [
    { label: 'Turn the page a quarter', kbds: ['t'], onSelect: pages.turn },
    {
      label: 'Room beside the page',
      onSelect: () => {
        if (pages.page)
          store.change('make room beside', f => insertSpace(f, pages.page!, { side: 'beside', y: 0, size: 198 }))
      },
    },
    {
      label: pages.current?.sheet ? 'No reference sheet any more' : 'Make it a reference sheet',
      onSelect: toggleSheet,
    },
    { label: 'A copy of the page', onSelect: copyPage },
  ],
  [{ label: 'Take the page out', onSelect: pages.remove }],
])
function toggleSheet() {
  const id = pages.page,
    i = store.folio?.pages.findIndex(p => p.id === id) ?? -1
  store.change('make a reference sheet', f => {
    const p = f.pages.find(x => x.id === id)
    if (p) p.sheet = p.sheet ? '' : `Page ${i + 1}`
  })
}
function copyPage() {
  const id = pages.page
  store.change('copy the page', f => {
    const i = f.pages.findIndex(p => p.id === id)
    if (i >= 0) f.pages.splice(i + 1, 0, Page.parse({ ...JSON.parse(JSON.stringify(f.pages[i])), id: newId() }))
  })
}
</script>

<template>
  <div
    class="flex flex-wrap items-center gap-1 border-b border-(--rule-fine) bg-default px-3 py-1.5"
    role="toolbar"
    aria-label="Page tools"
  >
    <UButton
      color="neutral"
      variant="outline"
      icon="i-lucide-file-up"
      class="shrink-0 whitespace-nowrap"
      :disabled="store.readOnly"
      @click="emit('bring')"
    >
      Bring in <kbd class="key">B</kbd>
    </UButton>
    <UDropdownMenu :items="blanks">
      <UButton
        color="neutral"
        variant="ghost"
        icon="i-lucide-file-plus-2"
        :title="`A page of the application's own (N: ${PAPER_NAMES[settings.remembered.paper].toLowerCase()})`"
        :disabled="store.readOnly"
        aria-label="Add a page"
      />
    </UDropdownMenu>
    <UDropdownMenu :items="more">
      <UButton
        color="neutral"
        variant="ghost"
        icon="i-lucide-file-cog"
        title="This page: turn, room beside, take out"
        :disabled="store.readOnly || !pages.page"
        aria-label="This page"
      />
    </UDropdownMenu>
    <span class="mx-1 h-6 border-l border-(--rule-fine)" />
    <UButton
      v-for="t in TOOLS"
      :key="t.id"
      :color="pages.tool === t.id ? 'primary' : 'neutral'"
      :variant="pages.tool === t.id ? 'solid' : 'ghost'"
      :icon="t.icon"
      :title="`${t.title} (${t.key})`"
      :aria-pressed="pages.tool === t.id"
      :disabled="store.readOnly || !store.folio?.pages.length"
      class="px-2"
      @click="pages.tool = t.id"
    >
      {{ t.label }}
    </UButton>
    <UButton
      v-if="cleanable"
      class="ml-auto"
      color="neutral"
      variant="outline"
      icon="i-lucide-crop"
      @click="emit('clean')"
    >
      Straighten
    </UButton>
    <UButton
      v-else
      class="ml-auto"
      color="neutral"
      variant="ghost"
      icon="i-lucide-search"
      title="Find the questions on pages that have none yet (F)"
      :disabled="store.readOnly || !store.folio?.pages.length"
      @click="pages.find"
    >
      Find <kbd class="key">F</kbd>
    </UButton>
  </div>
</template>
