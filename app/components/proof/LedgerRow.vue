<script setup lang="ts">
import { canRemake, isRemade, remadeInWords, stepName, useVersion, versionsOf } from '#core/cut'
import { pictureOfStep } from '#core/edition/proofing'
import type { StepTake } from '#core/folio'
import { clockTime } from '#core/publish'

/** A step in the ledger: what was written in it, its sound, its name and words, and what is done to it. */
const props = defineProps<{ place: number }>()
const emit = defineEmits<{ compare: [step: string] }>()
const proof = useProof()
const ledger = useLedger()
const store = useFolio()
/** Height of a second of sound, px. */
const PX_PER_SECOND = 13
const LEAST_ROW = 104

/** Rows far from what is seen are kept as tall as they were, and empty. */
const FAR = '1200px'
const item = ref<HTMLElement>()
const near = ref(props.place < 8)
const tall = ref(0)
useIntersectionObserver(
  item,
  entries => {
    const seen = entries.at(-1)?.isIntersecting === true
    if (near.value && !seen) tall.value = item.value?.offsetHeight ?? 0
    near.value = seen
  },
  { root: computed(() => item.value?.parentElement), rootMargin: FAR },
)
const row = computed(() => proof.rows[props.place]!)
const step = computed(() => row.value.step)
const shown = computed(() => proof.edition?.time.steps.find(s => s.place === props.place) ?? null)
const here = computed(() => proof.row === props.place)
const own = computed(() => row.value.take === proof.ledger?.takeId)
const copies = computed(() => proof.rows.filter(r => r.step.id === step.value.id).length)
const strikes = computed(() =>
  own.value
    ? (proof.ledger?.strikes ?? []).filter(s => s.from < row.value.stretch.to && s.to > row.value.stretch.from)
    : [],
)
const paces = computed(() => (own.value ? (proof.ledger?.paces ?? []) : []))
const guards = computed(() =>
  own.value
    ? (proof.ledger?.guards ?? []).filter(g => g.from < row.value.stretch.to && g.to > row.value.stretch.from)
    : [],
)
const turns = computed(() =>
  own.value ? (proof.ledger?.turns ?? []).filter(t => t.t >= row.value.stretch.from && t.t < row.value.stretch.to) : [],
)
const name = computed(() => (shown.value ? proof.edition!.nameOf(shown.value) : stepName(step.value, row.value.index)))
const seconds = computed(() =>
  Math.round((shown.value ? shown.value.to - shown.value.from : row.value.stretch.to - row.value.stretch.from) / 1000),
)
const page = computed(
  () =>
    store.folio?.pages.find(p => p.id === (proof.edition?.boardAt(shown.value?.to ?? 0).frame?.pageId ?? '')) ?? null,
)
/** Another function whenever the edition is another, so that the picture is drawn anew. */
const picture = computed(() => {
  const { edition } = proof
  const { stretch } = row.value
  const lesson = shown.value
  return () =>
    !edition
      ? null
      : lesson
        ? pictureOfStep(t => edition.board.at(t), lesson.from, lesson.to)
        : own.value
          ? pictureOfStep(t => edition.boardInTake(t), stretch.from, stretch.to)
          : null
})
const minHeight = computed(() =>
  Math.max(LEAST_ROW, Math.min(420, ((row.value.stretch.to - row.value.stretch.from) / 1000) * PX_PER_SECOND)),
)
const REMAKES: [as: StepTake, label: string, icon: string][] = [
  ['anew', 'Record it anew', 'i-lucide-circle-dot'],
  ['voice', 'Say it again', 'i-lucide-mic'],
  ['ink', 'Write it again', 'i-lucide-pen-line'],
  ['after', 'Record a step after it', 'i-lucide-list-plus'],
]
const remakes = computed(() => REMAKES.filter(([as]) => canRemake(step.value, as)))
const remake = (as: StepTake) =>
  navigateTo({ path: `/folio/${store.folio!.id}/solve`, query: { q: proof.question!.id, step: step.value.id, as } })
const putBack = () => proof.editStep(step.value.id, 'put the first version back', s => useVersion(s, null))
/** What was recorded once more of it. */
const remade = computed(() => (step.value.added ? 'added later' : remadeInWords(step.value)))
const text = (event: Event) => (event.target as HTMLInputElement).value
const go = (t: number) => proof.goTo({ take: row.value.take, t })
const notices = useNotices()
/** What cannot be done is told, also where it was asked for by hand. */
const tell = (run: () => string | undefined) => () => {
  const why = run()
  if (why) notices.say(why)
}
/** Its menu is made when it is first asked for, so that rows come fast while they are scrolled. */
const asked = ref(false)
const opened = ref(false)
async function ask() {
  asked.value = true
  await nextTick()
  opened.value = true
}
const menu = computed(() =>
  [
    [
      {
        label: 'Split here',
        icon: 'i-lucide-split',
        onSelect: tell(() => ledger.split()),
        disabled: !here.value || !own.value,
      },
      { label: 'Join with the next', icon: 'i-lucide-merge', onSelect: tell(() => ledger.join(props.place)) },
      {
        label: 'Its beginning to this moment',
        icon: 'i-lucide-move-vertical',
        onSelect: tell(() => ledger.moveMarkHere(props.place)),
      },
    ],
    [
      {
        label: 'Up',
        icon: 'i-lucide-arrow-up',
        disabled: props.place === 0,
        onSelect: tell(() => ledger.move(-1, props.place)),
      },
      {
        label: 'Down',
        icon: 'i-lucide-arrow-down',
        disabled: props.place === proof.rows.length - 1,
        onSelect: tell(() => ledger.move(1, props.place)),
      },
      copies.value > 1
        ? { label: 'Take this copy away', icon: 'i-lucide-x', onSelect: () => ledger.drop(props.place) }
        : { label: 'Copy', icon: 'i-lucide-copy', onSelect: () => ledger.copy(props.place) },
    ],
    [
      ...remakes.value.map(([as, label, icon]) => ({ label, icon, onSelect: () => remake(as) })),
      ...(versionsOf(step.value).length > (step.value.added ? 1 : 0)
        ? [
            {
              label: 'Compare its versions',
              icon: 'i-lucide-columns-2',
              onSelect: () => emit('compare', step.value.id),
            },
            ...(isRemade(step.value) && !step.value.added
              ? [{ label: 'Put the first one back', icon: 'i-lucide-undo-dot', onSelect: putBack }]
              : []),
          ]
        : []),
    ],
    step.value.struck
      ? [
          {
            label: step.value.inkStays ? 'Take its ink out, too' : 'Its ink stays',
            icon: 'i-lucide-pen-line',
            onSelect: () => ledger.keepInk(props.place, !step.value.inkStays),
          },
        ]
      : [],
  ].filter(group => group.length > 0),
)
</script>

<template>
  <li
    v-if="!near && !here"
    ref="item"
    data-part="step"
    :style="{ height: `${tall || minHeight}px` }"
  />
  <li
    v-else
    ref="item"
    class="step flex border-b border-(--rule-fine)"
    :class="{ here, struck: step.struck }"
    :style="{ minHeight: `${minHeight}px` }"
    data-part="step"
  >
    <StepWave
      :peaks="proof.peaksOf[row.take] ?? proof.peaks"
      :from="row.stretch.from"
      :to="row.stretch.to"
      :time="here && proof.moment.take === row.take ? proof.moment.t : -1"
      :struck="step.struck"
      :strikes="strikes"
      :paces="paces"
      :guards="guards"
      :marked="own ? ledger.marked : null"
      :snap="ledger.snapped"
      @seek="go"
      @mark="own && !store.readOnly ? (ledger.marked = $event) : undefined"
    />
    <div class="min-w-0 grow px-3 py-2">
      <div class="flex items-center gap-2 text-sm text-toned">
        <button
          type="button"
          class="serif text-lg text-(--lead)"
          :title="`Go to ${name}`"
          @click="proof.showRow(place)"
        >
          {{ place + 1 }}
        </button>
        <span class="whitespace-nowrap"
          >{{ shown ? clockTime(shown.from) : clockTime(row.stretch.from) }}, {{ seconds }} s</span
        >
        <span
          v-if="step.struck"
          class="border border-(--rule) px-1.5 whitespace-nowrap text-(--lead)"
          >{{ step.inkStays ? 'out, ink stays' : 'struck out' }}</span
        >
        <span
          v-else-if="remade"
          class="border border-(--rule) px-1.5 whitespace-nowrap text-(--lead)"
          >{{ remade }}</span
        >
        <UButton
          class="ml-auto"
          size="sm"
          color="neutral"
          variant="ghost"
          :icon="step.struck ? 'i-lucide-undo-dot' : 'i-lucide-strikethrough'"
          :disabled="store.readOnly"
          @click="ledger.strikeStep(place)"
        >
          {{ step.struck ? 'Bring back' : 'Strike out' }}
          <kbd
            v-if="here"
            class="key"
            >X</kbd
          >
        </UButton>
        <UDropdownMenu
          v-if="asked"
          v-model:open="opened"
          :items="menu"
        >
          <UButton
            size="sm"
            color="neutral"
            variant="ghost"
            icon="i-lucide-ellipsis-vertical"
            :aria-label="`More for step ${place + 1}`"
            :disabled="store.readOnly"
          />
        </UDropdownMenu>
        <button
          v-else
          type="button"
          class="more"
          aria-haspopup="menu"
          :aria-label="`More for step ${place + 1}`"
          :disabled="store.readOnly"
          @click="ask"
        >
          <UIcon
            name="i-lucide-ellipsis-vertical"
            class="size-4"
          />
        </button>
      </div>
      <input
        :id="`step-${step.id}`"
        :value="step.title"
        :placeholder="name"
        :aria-label="`Name of step ${place + 1}`"
        maxlength="300"
        class="serif name w-full bg-transparent py-1 text-[1.0625rem]"
        :disabled="store.readOnly"
        @change="
          proof.editStep(step.id, 'name a step', s => {
            s.title = text($event)
          })
        "
      />
      <StepPlays
        v-if="shown && proof.question"
        :question-id="proof.question.id"
        :step="proof.edition!.time.steps.indexOf(shown)"
        :of="proof.edition!.time.steps.length"
      />
      <StepPicture
        :picture="picture"
        :page="page"
        :name="name"
      />
      <textarea
        :value="step.words"
        placeholder="What is said here, for captions and search"
        :aria-label="`Words of step ${place + 1}`"
        maxlength="5000"
        rows="2"
        class="words w-full resize-none bg-transparent text-sm text-toned"
        :disabled="store.readOnly"
        @change="
          proof.editStep(step.id, 'write the words of a step', s => {
            s.words = text($event)
          })
        "
      />
      <p
        v-for="s in strikes.filter(x => !x.pause)"
        :key="s.id"
        class="flex items-center gap-2 text-sm text-toned"
        data-part="strike"
      >
        <button
          type="button"
          class="whitespace-nowrap underline-offset-2 hover:underline"
          @click="go(s.from)"
        >
          {{ ((s.to - s.from) / 1000).toFixed(1) }} s out,
        </button>
        <button
          type="button"
          class="whitespace-nowrap underline underline-offset-2"
          :title="s.inkStays ? 'Take its ink out, too' : 'Leave its ink there'"
          :disabled="store.readOnly"
          @click="ledger.setStrikeInk(s.id, !s.inkStays)"
        >
          {{ s.inkStays ? 'ink stays' : 'with its ink' }}
        </button>
        <UButton
          size="xs"
          color="neutral"
          variant="ghost"
          icon="i-lucide-undo-dot"
          :disabled="store.readOnly"
          @click="ledger.bringBack(s.id)"
        >
          Bring back
        </UButton>
      </p>
      <p
        v-for="g in guards"
        :key="g.id"
        class="flex items-center gap-2 text-sm text-toned"
        data-part="guarded"
      >
        <UIcon name="i-lucide-shield" />
        <button
          type="button"
          class="underline-offset-2 hover:underline"
          @click="go(g.from)"
        >
          {{ ((g.to - g.from) / 1000).toFixed(1) }} s protected
        </button>
        <UButton
          size="xs"
          color="neutral"
          variant="ghost"
          :disabled="store.readOnly"
          @click="ledger.unguard(g.id)"
        >
          No longer
        </UButton>
      </p>
      <TurnRow
        v-for="turn in turns"
        :key="turn.id"
        :turn="turn"
        :disabled="store.readOnly"
        @seek="go(turn.t)"
        @change="ledger.editTurn(turn.id, $event)"
        @remove="ledger.editTurn(turn.id, null)"
      />
    </div>
  </li>
</template>

<style scoped>
.step.here {
  background: var(--ui-bg-elevated);
}
.step.struck .name {
  text-decoration: line-through;
  color: var(--lead-soft);
}
.name {
  border-bottom: 1px dashed transparent;
}
.more {
  padding: 0.375rem;
  border-radius: var(--ui-radius);
}
.more:hover {
  background: var(--ui-bg-elevated);
}
.name::placeholder {
  color: var(--lead);
  opacity: 0.85;
}
.step:hover .name,
.name:focus {
  border-bottom-color: var(--rule);
}
.words {
  field-sizing: content;
  min-height: 1.625rem;
  max-height: 9rem;
}
</style>
