<script setup lang="ts">
import {
  makePart,
  makeQuestion,
  marksOf,
  mergeIntoPrevious,
  newId,
  questionName,
  readAnswer,
  readNumber,
  renumberFrom,
  SIGHTS,
  targetMinutes,
  type Question,
} from '#core/folio'

/** What a question is made of: marks and time, parts, options, its answer, and where it is worked on. */
const props = defineProps<{ question: Question }>()
const emit = defineEmits<{ select: [id: string]; another: [] }>()
const store = useFolio()
const pages = usePages()
const first = computed(() => store.questions[0]?.id === props.question.id)
const target = computed(() => (store.folio ? targetMinutes(props.question, store.folio) : null))
const answer = computed(() =>
  readAnswer(
    props.question.answer,
    props.question.options.map(o => o.label),
  ),
)
const understood = computed(() => {
  const a = answer.value
  return a.kind === 'number'
    ? `a number${a.unit ? ` in ${a.unit}` : ''}${a.tolerance ? `, give or take ${a.tolerance}` : ''}`
    : a.kind === 'option'
      ? `option ${a.label}`
      : a.kind === 'expression'
        ? 'an expression'
        : a.kind === 'words'
          ? 'words'
          : ''
})
const change = (label: string, edit: (q: Question) => void) => store.changeQuestion(props.question.id, label, edit)
const text = (event: Event) => (event.target as HTMLInputElement).value
/** A typed number of marks or minutes; null when the field was emptied, undefined when it is none. */
function amount(event: Event, most: number): number | null | undefined {
  const value = text(event).trim()
  const n = value ? readNumber(value) : null
  return n === null || (n >= 0 && n <= most) ? n : undefined
}
function setMarks(event: Event) {
  const n = amount(event, 999)
  if (n === undefined) (event.target as HTMLInputElement).value = String(marksOf(props.question) ?? '')
  else
    change('change the marks', q => {
      q.marks = n
    })
}
function setMinutes(event: Event) {
  const n = amount(event, 600)
  if (n !== undefined)
    change('change the target time', q => {
      q.minutes = n || null
    })
}
function setPartMarks(id: string, event: Event) {
  const n = amount(event, 999)
  if (n === undefined) return
  change('change the marks', q => {
    q.parts.find(p => p.id === id)!.marks = n
    q.marks = null
  })
}
function merge(edit: typeof mergeIntoPrevious, label: string) {
  const before = store.questions[store.questions.findIndex(q => q.id === props.question.id) - 1]
  store.change(label, draft => edit(draft, props.question.id))
  if (before) emit('select', before.id)
}
function toQuestion(partId: string) {
  let made: string | null = null
  store.change('make it a question', draft => {
    made = makeQuestion(draft, props.question.id, partId)
  })
  if (made) emit('select', made)
}
function addPart() {
  const last = props.question.parts.findLast(p => /^[a-z]$/.test(p.label))
  change('add a part', q =>
    q.parts.push({
      id: newId(),
      label: String.fromCharCode((last?.label.charCodeAt(0) ?? 96) + 1),
      marks: null,
      answer: '',
      place: null,
    }),
  )
}
function addOption() {
  const last = props.question.options.at(-1)
  change('add an option', q =>
    q.options.push({
      id: newId(),
      label: String.fromCharCode((last?.label.charCodeAt(0) ?? 64) + 1),
      text: '',
      place: null,
    }),
  )
}
function scratch() {
  if (props.question.scratch)
    return change('take the scratch page off', q => {
      q.scratch = null
    })
  const i = store.folio!.pages.findIndex(p => p.id === props.question.regions.at(-1)?.pageId)
  const id = pages.add(
    'attach a scratch page',
    { kind: 'blank', paper: 'squared', dark: false, width: 841.89, height: 473.56 },
    i + 1,
  )
  change('attach a scratch page', q => {
    q.scratch = id
  })
}
const sights = SIGHTS.map(value => ({
  value,
  label: { off: 'Work alone', above: 'Problem above', beside: 'Problem beside' }[value],
}))
const more = computed(() => [
  [
    {
      label: 'Join to the one before',
      kbds: ['j'],
      disabled: first.value || !!props.question.ledger,
      onSelect: () => merge(mergeIntoPrevious, 'join the questions'),
    },
    {
      label: 'Make it a part of the one before',
      kbds: ['m'],
      disabled: first.value || !!props.question.ledger,
      onSelect: () => merge(makePart, 'make it a part'),
    },
    {
      label: `Count on from ${props.question.number}`,
      kbds: ['u'],
      onSelect: () =>
        store.change('number anew', draft => renumberFrom(draft, props.question.id, props.question.number)),
    },
    { label: 'Another region', kbds: ['g'], onSelect: () => emit('another') },
  ],
  [
    { label: 'A part', icon: 'i-lucide-plus', onSelect: addPart },
    { label: 'An option', icon: 'i-lucide-plus', onSelect: addOption },
    { label: props.question.scratch ? 'Without the scratch page' : 'A scratch page', onSelect: scratch },
  ],
])
</script>

<template>
  <div class="mt-2 text-sm">
    <div class="flex items-end gap-2">
      <label class="w-16"
        ><span class="cell-label">Marks</span
        ><UInput
          :model-value="String(marksOf(question) ?? '')"
          size="sm"
          inputmode="decimal"
          :aria-label="`Marks of question ${question.number}`"
          @change="setMarks"
      /></label>
      <label class="w-16"
        ><span class="cell-label">Minutes</span
        ><UInput
          :model-value="String(question.minutes ?? '')"
          size="sm"
          inputmode="decimal"
          :placeholder="target === null ? '' : String(target)"
          :aria-label="`Target minutes of question ${question.number}`"
          @change="setMinutes"
      /></label>
      <UDropdownMenu :items="more">
        <UButton
          class="ml-auto"
          color="neutral"
          variant="outline"
          size="sm"
          trailing-icon="i-lucide-chevron-down"
        >
          Change
        </UButton>
      </UDropdownMenu>
      <UButton
        color="neutral"
        variant="ghost"
        size="sm"
        icon="i-lucide-trash-2"
        title="Remove (Delete); undo brings it back"
        :aria-label="`Remove ${questionName(question)}`"
        @click="store.removeQuestion(question.id)"
      />
    </div>
    <ul
      v-if="question.parts.length"
      class="mt-2"
    >
      <li
        v-for="part in question.parts"
        :key="part.id"
        class="mt-1 flex items-center gap-1.5"
        :class="{ 'pl-4': part.label.includes('(') }"
        data-part="part"
      >
        <UInput
          :model-value="part.label"
          :maxlength="24"
          size="sm"
          class="w-14"
          :aria-label="`Label of part ${part.label}`"
          @change="
            change('name the part', q => {
              q.parts.find(p => p.id === part.id)!.label = text($event).trim() || part.label
            })
          "
        />
        <UInput
          :model-value="part.answer"
          :maxlength="500"
          size="sm"
          class="grow"
          placeholder="answer"
          :aria-label="`Answer of part ${part.label}`"
          @change="
            change('change the answer', q => {
              q.parts.find(p => p.id === part.id)!.answer = text($event).trim()
            })
          "
        />
        <UInput
          :model-value="String(part.marks ?? '')"
          size="sm"
          class="w-11"
          inputmode="decimal"
          :aria-label="`Marks of part ${part.label}`"
          @change="setPartMarks(part.id, $event)"
        />
        <UButton
          color="neutral"
          variant="ghost"
          size="xs"
          icon="i-lucide-square-arrow-out-up-right"
          title="Make it a question of its own"
          :disabled="!part.place"
          :aria-label="`Make part ${part.label} a question`"
          @click="toQuestion(part.id)"
        />
        <UButton
          color="neutral"
          variant="ghost"
          size="xs"
          icon="i-lucide-x"
          :aria-label="`Remove part ${part.label}`"
          @click="
            change('remove the part', q => {
              q.parts = q.parts.filter(p => p.id !== part.id)
            })
          "
        />
      </li>
    </ul>
    <div
      v-if="question.options.length"
      class="mt-2 flex flex-wrap items-center gap-1"
      role="radiogroup"
      aria-label="The right option"
    >
      <UButton
        v-for="o in question.options"
        :key="o.id"
        size="sm"
        :color="answer.kind === 'option' && answer.label === o.label ? 'primary' : 'neutral'"
        :variant="answer.kind === 'option' && answer.label === o.label ? 'solid' : 'outline'"
        role="radio"
        :aria-checked="answer.kind === 'option' && answer.label === o.label"
        :title="o.text || `Option ${o.label}`"
        @click="
          change('choose the answer', q => {
            q.answer = o.label
          })
        "
      >
        {{ o.label }}
      </UButton>
      <UButton
        color="neutral"
        variant="ghost"
        size="xs"
        icon="i-lucide-x"
        aria-label="Not multiple choice"
        title="These are no options"
        @click="
          change('take the options off', q => {
            q.options = []
          })
        "
      />
    </div>
    <label
      v-if="!question.parts.length"
      class="mt-2 block"
      ><span class="cell-label">Answer{{ understood ? `: ${understood}` : '' }}</span
      ><UInput
        :model-value="question.answer"
        :maxlength="500"
        size="sm"
        class="w-full"
        placeholder="B, 19.5 m ± 0.5, or 4x + 1"
        :aria-label="`Answer of question ${question.number}`"
        @change="
          change('change the answer', q => {
            q.answer = text($event).trim()
          })
        "
    /></label>
    <USelect
      v-if="question.scratch"
      :model-value="question.sight"
      :items="sights"
      size="sm"
      class="mt-2 w-full"
      aria-label="Where the problem stays in sight"
      @update:model-value="
        value =>
          change('keep the problem in sight', q => {
            q.sight = value as Question['sight']
          })
      "
    />
  </div>
</template>
