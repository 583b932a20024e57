<script setup lang="ts">
import Papa from 'papaparse'
import { applyKey, isAnswered, readKeyRows, readKeyText, type KeyList } from '#core/folio'

/** The answer key: typed question by question, pasted as a list, or read from a table. */
const emit = defineEmits<{ select: [id: string] }>()
const store = useFolio()
const incoming = useIncoming()
const file = ref<HTMLInputElement>()
const pasted = ref('')
const report = ref<{ taken: number; problems: string[] } | null>(null)
const open = computed(() => store.questions.filter(q => !isAnswered(q)))

function take(list: KeyList, from: string) {
  let unknown: string[] = []
  store.change('fill in the answer key', draft => {
    unknown = applyKey(draft, list.lines).map(l => `${l.number}${l.part}: the folio has no such question or part.`)
  })
  report.value = {
    taken: list.lines.length - unknown.length,
    problems: [...list.problems.map(p => `${from}, line ${p.line} (“${p.text}”): ${p.why}.`), ...unknown],
  }
}
async function readFile(list: FileList | null) {
  const chosen = list?.[0]
  if (file.value) file.value.value = ''
  if (!chosen) return
  const { data, errors } = Papa.parse<string[]>(await chosen.text(), { skipEmptyLines: false })
  const read = readKeyRows(data)
  take(
    {
      ...read,
      problems: [
        ...read.problems,
        ...errors
          .filter(e => e.row !== undefined && e.type !== 'Delimiter')
          .map(e => ({
            line: e.row! + 1,
            text: (data[e.row!] ?? []).join(', ').slice(0, 60),
            why: e.message.toLowerCase(),
          })),
      ],
    },
    chosen.name,
  )
}
function readPasted() {
  take(
    pasted.value.includes('\t') || (/^[^,\n]+,[^,\n]+$/m.test(pasted.value) && !/^\s*\S+[.):]\s/m.test(pasted.value))
      ? readKeyRows(Papa.parse<string[]>(pasted.value).data)
      : readKeyText(pasted.value),
    'The list',
  )
  if (!report.value?.problems.length) pasted.value = ''
}
async function fromPages() {
  const list = await incoming.keyFromPages()
  if (list) take(list, 'The key page')
  else report.value = { taken: 0, problems: ['No page of this folio looks like an answer key.'] }
}
function set(id: string, event: Event) {
  store.changeQuestion(id, 'change the answer', q => {
    q.answer = (event.target as HTMLInputElement).value.trim()
  })
}
function setMinutes(event: Event) {
  const n = Number((event.target as HTMLInputElement).value.replace(',', '.'))
  if (n > 0 && n <= 60)
    store.change('change the minutes a mark', f => {
      f.minutesAMark = n
    })
}
</script>

<template>
  <div class="min-h-0 grow overflow-y-auto p-3 text-sm">
    <p class="mb-2 px-1 text-toned">
      {{
        open.length
          ? `${open.length} of ${store.questions.length} still without an answer.`
          : store.questions.length
            ? 'Every question has its answer.'
            : 'Answers can be filled in once there are questions.'
      }}
    </p>
    <ol class="mb-3">
      <li
        v-for="q in store.questions"
        :key="q.id"
        class="flex items-center gap-2 py-0.5"
      >
        <button
          type="button"
          class="serif w-10 shrink-0 truncate text-right text-base"
          :title="`Go to question ${q.number}`"
          @click="emit('select', q.id)"
        >
          {{ q.number }}
        </button>
        <UInput
          :model-value="q.answer"
          :maxlength="500"
          size="sm"
          class="grow"
          :placeholder="q.parts.length ? `${q.parts.filter(p => p.answer).length} of ${q.parts.length} parts` : ''"
          :aria-label="`Answer of question ${q.number}`"
          :disabled="store.readOnly"
          @change="set(q.id, $event)"
        />
      </li>
    </ol>
    <UFormField label="Paste a list">
      <UTextarea
        v-model="pasted"
        class="w-full"
        :rows="4"
        placeholder="1. B&#10;2a) 17 cm ± 0.5&#10;3 x = 24"
      />
    </UFormField>
    <div class="mt-2 flex flex-wrap gap-1.5">
      <UButton
        size="sm"
        :disabled="!pasted.trim() || store.readOnly"
        @click="readPasted"
      >
        Fill in
      </UButton>
      <UButton
        size="sm"
        color="neutral"
        variant="outline"
        icon="i-lucide-table"
        :disabled="store.readOnly"
        @click="file?.click()"
      >
        From a table (CSV)
      </UButton>
      <UButton
        size="sm"
        color="neutral"
        variant="outline"
        icon="i-lucide-file-check-2"
        :disabled="store.readOnly || !store.folio?.pages.length"
        @click="fromPages"
      >
        From the key page
      </UButton>
      <input
        ref="file"
        type="file"
        accept=".csv,text/csv,.tsv,.txt"
        class="hidden"
        aria-label="Table of answers"
        @change="readFile(($event.target as HTMLInputElement).files)"
      />
    </div>
    <div
      v-if="report"
      class="mt-3 border-l-2 border-(--frame) pl-3"
      role="status"
      data-part="key-report"
    >
      <p>
        {{ report.taken }} {{ report.taken === 1 ? 'answer' : 'answers' }} filled in{{
          report.problems.length ? '; the rest was left out:' : '.'
        }}
      </p>
      <p
        v-for="problem in report.problems"
        :key="problem"
        class="mt-1 text-(--taking)"
      >
        {{ problem }}
      </p>
    </div>
    <label class="mt-4 flex items-center gap-2 border-t border-(--rule-fine) pt-3"
      >Target time:
      <UInput
        :model-value="store.folio?.minutesAMark"
        size="sm"
        class="w-14"
        inputmode="decimal"
        aria-label="Minutes a mark"
        :disabled="store.readOnly"
        @change="setMinutes"
      />
      minutes a mark</label
    >
  </div>
</template>
