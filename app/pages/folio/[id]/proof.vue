<script setup lang="ts">
import { editionLength } from '#core/edition'
import { pacingOf } from '#core/edition/proofing'
import { questionName, targetMinutes, type Question } from '#core/folio'
import { clockTime } from '#core/publish'
import type { Key } from '~/stores/keys'

const props = defineProps<{ current?: Question }>()
const route = useRoute()
const store = useFolio()
const proof = useProof()
const ledger = useLedger()
const mending = useMending()
const settings = useSettings()
const notices = useNotices()
const list = ref<HTMLElement>()
const site = useClassSite()
// What students went back to stands in the ledger, where it is counted.
onMounted(() => {
  if (store.folio?.published?.counts) void site.refresh()
})
const comparing = ref(false)
/** The step whose versions are compared. */
const compared = ref<string | null>(null)
const comparedStep = computed(() => props.current?.ledger?.steps.find(s => s.id === compared.value) ?? null)

watch(
  () => [props.current?.id, props.current?.ledger?.takeId].join(),
  async () => {
    await proof.open(props.current ?? null)
    // What a student asks about is at a moment of the lesson.
    const { t, ...query } = route.query
    if (t === undefined || !proof.edition) return
    proof.seek(Math.min(proof.duration, Math.max(0, Number(t) || 0)))
    await navigateTo({ query }, { replace: true })
  },
  { immediate: true },
)
onBeforeUnmount(() => {
  mending.end()
  proof.close()
})

const frame = computed(() => proof.board.frame ?? proof.take?.frame ?? null)
const page = computed(() => store.folio?.pages.find(p => p.id === frame.value?.pageId) ?? null)
function addTurn(): string | undefined {
  if (proof.moment.take !== proof.take?.id) return 'This step was recorded once more: ask to try in a step beside it.'
  ledger.addTurn(proof.moment.t, settings.remembered.turnSeconds, settings.remembered.turnHold)
  return undefined
}
function askHere() {
  const why = addTurn()
  if (why) notices.say(why)
}
const portraitBox = computed(() => proof.portraitNow())
const silent = computed(() => proof.ready && proof.soundless)
const gaps = computed(() => proof.edition?.soundGaps() ?? [])
const target = computed(() => (props.current && store.folio ? targetMinutes(props.current, store.folio) : null))
const pacing = computed(() => (proof.edition && !proof.edition.empty ? pacingOf(proof.edition) : null))
const joints = computed(() => proof.edition?.time.joints().length ?? 0)
/** A board that stands still for longer than this is worth a look, ms. */
const LONG_STILL = 12_000
const folioTime = computed(() => {
  const recorded = store.questions.filter(q => q.ledger)
  const length = (q: Question) => {
    const take = store.takes.find(t => t.id === q.ledger?.takeId)
    return take ? editionLength(q.ledger!, take) : 0
  }
  return { of: recorded.length, ms: recorded.reduce((n, q) => n + length(q), 0) }
})
const over = computed(() => (target.value ? proof.duration - target.value * 60_000 : 0))

watch(
  () => proof.row,
  i => {
    list.value?.children[i]?.scrollIntoView({
      block: 'nearest',
      behavior: settings.remembered.calm ? 'auto' : 'smooth',
    })
  },
)
const savePicture = () => frame.value && proof.savePicture(frame.value)
const holds = computed({
  get: () => props.current?.proofed ?? false,
  set: (v: boolean) => {
    if (props.current)
      store.changeQuestion(props.current.id, 'proof the question', q => {
        q.proofed = v
      })
  },
})
const takeItems = computed(() =>
  proof.otherTakes.map((t, i) => ({ label: `Take ${i + 1}, ${clockTime(t.durationMs)}`, value: t.id })),
)
const takeId = computed({
  get: () => proof.take?.id ?? '',
  set: (id: string) => {
    const t = proof.otherTakes.find(x => x.id === id)
    if (t && id !== proof.take?.id) void proof.useTake(t)
  },
})
function mend() {
  const why = mending.begin()
  if (why) notices.say(why)
}
const nudge = (ms: number) => () => proof.seek(proof.time + ms)
const KEYS: Key[] = [
  { key: 'Space', label: 'Play or pause', run: proof.toggle },
  { key: 'ArrowDown', label: 'Next step', run: () => proof.toRow(1) },
  { key: 'ArrowUp', label: 'Step before', run: () => proof.toRow(-1) },
  { key: 'ArrowRight', label: 'Two seconds on', run: nudge(2000) },
  { key: 'ArrowLeft', label: 'Two seconds back', run: nudge(-2000) },
  { key: 'shift+ArrowRight', label: 'A tenth of a second on', run: nudge(100) },
  { key: 'shift+ArrowLeft', label: 'A tenth of a second back', run: nudge(-100) },
  { key: 'x', label: 'Strike out this step, or bring it back', run: () => ledger.strikeStep() },
  { key: '[', label: 'What is taken out begins here', run: () => ledger.mark('in') },
  { key: ']', label: 'What is taken out ends here', run: () => ledger.mark('out') },
  { key: 'alt+[', label: 'It begins just here, not at the nearest pause', run: () => ledger.mark('in', true) },
  { key: 'alt+]', label: 'It ends just here, not at the nearest pause', run: () => ledger.mark('out', true) },
  { key: 'w', label: 'Mark the words, or the pause, that are heard here', run: ledger.markHere },
  { key: 'Delete', label: 'Strike out what is marked', run: () => ledger.strikeMarked() },
  { key: 'shift+Delete', label: 'Strike it out, and leave its ink', run: () => ledger.strikeMarked(true) },
  {
    key: 'Escape',
    label: 'Leave in what is marked',
    run: () => {
      ledger.marked = null
      ledger.proposals = null
    },
  },
  { key: 'h', label: 'Mend ink and things at this moment', run: mending.begin },
  { key: 'g', label: 'Tighten: propose what could be shorter', run: ledger.propose },
  { key: 'b', label: 'The question begins here', run: () => ledger.trim('start') },
  { key: 'e', label: 'The question ends here', run: () => ledger.trim('end') },
  { key: 'c', label: 'Split the step here', run: () => ledger.split() },
  { key: 'm', label: 'Join the step with the next', run: () => ledger.join() },
  { key: 'l', label: 'The step begins here', run: () => ledger.moveMarkHere() },
  { key: 'p', label: 'Protect what is marked, or this pause, from tightening', run: ledger.protect },
  { key: 'alt+ArrowUp', label: 'Move the step up', run: () => ledger.move(-1) },
  { key: 'alt+ArrowDown', label: 'Move the step down', run: () => ledger.move(1) },
  { key: 'd', label: 'Copy the step', run: () => void ledger.copy() },
  { key: 'n', label: 'To the next joint', run: () => proof.toJoint(1) },
  { key: 'shift+n', label: 'To the joint before', run: () => proof.toJoint(-1) },
  { key: 'a', label: 'Play across the nearest joint', run: proof.playJoint },
  {
    key: 't',
    label: 'Name this step',
    run: () => (document.getElementById(`step-${proof.rows[proof.row]?.step.id}`) as HTMLInputElement | null)?.select(),
  },
  { key: 'j', label: 'Ask the student to try here', run: addTurn },
  {
    key: 'i',
    label: 'Save this moment as a picture',
    run: () => {
      void savePicture()
    },
  },
  { key: 'ctrl+z', label: 'Undo', run: store.undo },
  { key: 'ctrl+y', label: 'Redo', run: store.redo },
]
// While it is mended, keys are those of the tools.
useStageKeys(
  'Proof',
  KEYS.map(k => (k.key.startsWith('ctrl+') ? k : { ...k, when: () => !mending.on })),
)
</script>

<template>
  <div
    v-if="current && proof.ready && store.folio && frame && page"
    class="grid h-full grid-cols-[minmax(0,1fr)_29rem]"
  >
    <div class="squared flex min-h-0 flex-col overflow-y-auto p-7">
      <div class="mb-4 flex items-center gap-3">
        <h1 class="mr-auto min-w-0 grow bg-(--paper) text-xl font-semibold">
          <QuestionTitle :question="current" />
        </h1>
        <USelect
          v-if="takeItems.length > 1"
          v-model="takeId"
          :items="takeItems"
          class="w-44"
          aria-label="Take in use"
        />
        <UButton
          v-if="takeItems.length > 1"
          color="neutral"
          variant="outline"
          icon="i-lucide-columns-2"
          @click="comparing = true"
        >
          Compare
        </UButton>
        <TakesDialog
          v-if="comparing"
          :question="current"
          @close="comparing = false"
        />
      </div>
      <StepVersions
        v-if="comparedStep && proof.take"
        :question="current"
        :take="proof.take"
        :step="comparedStep"
        :name="comparedStep.title || 'this step'"
        @close="compared = null"
      />
      <MendBoard
        v-if="mending.on"
        :page="page"
        :frame="frame"
      />
      <div
        v-else
        class="ticks relative shrink-0 border border-(--frame)"
      >
        <ProofBoard
          :page="page"
          :folio="store.folio"
          :frame="frame"
          :board="proof.board"
          :holding="proof.holding"
        />
        <PortraitPlayer
          v-if="proof.camera && proof.ledger?.portrait"
          v-show="portraitBox"
          :track="proof.camera"
          :time="proof.seen.t"
          :playing="proof.playing && !proof.holding"
          :speed="proof.speed"
          :portrait="proof.ledger.portrait"
          :box="portraitBox ?? undefined"
        />
      </div>
      <div
        v-if="!mending.on"
        class="mt-5 flex flex-wrap items-center gap-x-3 gap-y-2 border border-(--rule) bg-default px-3 py-2"
      >
        <UButton
          size="lg"
          class="h-11 justify-center"
          :icon="proof.playing ? 'i-lucide-pause' : 'i-lucide-play'"
          @click="proof.toggle"
        >
          {{ proof.playing ? 'Pause' : 'Play' }}
        </UButton>
        <kbd class="key">Space</kbd>
        <span
          class="serif text-lg whitespace-nowrap"
          data-part="proof-time"
          :data-ms="Math.round(proof.time)"
          :data-take-ms="Math.round(proof.moment.t)"
          >{{ clockTime(proof.time) }} of {{ clockTime(proof.duration) }}</span
        >
        <span
          v-if="proof.aside"
          class="text-sm text-toned"
          >as it was recorded</span
        >
        <span
          v-else-if="target"
          class="text-sm text-toned whitespace-nowrap"
          :title="`About ${target} min for its marks`"
          >{{ clockTime(Math.abs(over)) }} {{ over > 0 ? 'over' : 'under' }} the target</span
        >
        <span class="ml-auto flex items-center gap-1">
          <USelect
            v-model="proof.speed"
            :items="proof.SPEEDS.map(s => ({ label: `${s} ×`, value: s }))"
            class="w-24"
            aria-label="Speed"
          />
          <UButton
            color="neutral"
            variant="outline"
            icon="i-lucide-pencil-ruler"
            :disabled="store.readOnly || mending.on"
            @click="mend"
          >
            Mend <kbd class="key">H</kbd>
          </UButton>
          <UButton
            color="neutral"
            variant="ghost"
            icon="i-lucide-hand"
            title="Ask the student to try here (J)"
            aria-label="Ask the student to try here"
            :disabled="store.readOnly"
            @click="askHere"
          />
          <UButton
            color="neutral"
            variant="ghost"
            icon="i-lucide-image-down"
            title="Save this moment as a picture (I)"
            aria-label="Save this moment as a picture"
            @click="savePicture"
          />
        </span>
      </div>
      <p
        v-if="pacing && !mending.on"
        class="mt-2 flex flex-wrap gap-x-4 bg-(--paper) px-1 text-sm text-toned"
        data-part="pacing"
      >
        <span>All {{ folioTime.of }} recorded questions: {{ clockTime(folioTime.ms) }}</span>
        <span v-if="pacing.wordsAMinute">{{ pacing.wordsAMinute }} words a minute</span>
        <button
          v-if="joints"
          type="button"
          class="underline underline-offset-2"
          data-part="joints"
          :disabled="store.readOnly"
          title="How much ink that comes or goes at once at a joint is shown"
          @click="ledger.softJoints = !ledger.softJoints"
        >
          {{ joints }} {{ joints === 1 ? 'joint' : 'joints' }}, ink
          {{ ledger.softJoints ? 'comes softly' : 'stands at once' }}
        </button>
        <button
          v-if="pacing.still && pacing.still.to - pacing.still.from > LONG_STILL"
          type="button"
          class="underline underline-offset-2"
          @click="proof.seek(pacing.still.from)"
        >
          Nothing new on the board for {{ Math.round((pacing.still.to - pacing.still.from) / 1000) }} s at
          {{ clockTime(pacing.still.from) }}
        </button>
      </p>
      <MendList />
      <PortraitRow
        v-if="proof.filmed && !mending.on"
        class="mt-3"
        :portrait="proof.ledger?.portrait"
        :disabled="store.readOnly"
        @change="proof.setPortrait"
      />
      <p
        v-if="proof.take?.state === 'recovered'"
        class="mt-4 border-l-4 border-(--taking) bg-default p-3 text-sm"
      >
        This take was cut off and put together again; its last second may be missing.
      </p>
      <p
        v-if="silent"
        class="mt-4 border-l-4 border-(--taking) bg-default p-3 text-sm"
        data-part="soundless"
      >
        There is no sound in it: the microphone was off or lost, or the sound is not in this browser any more. Say the
        steps once more, or open the folio’s file if that has it.
      </p>
      <p
        v-if="gaps.length"
        class="mt-4 border-l-4 border-(--taking) bg-default p-3 text-sm"
      >
        Sound was lost on the way and is silent now:
        <button
          v-for="gap in gaps.slice(0, 12)"
          :key="gap.from"
          type="button"
          class="mr-2 underline"
          @click="proof.goTo({ take: proof.take!.id, t: gap.from })"
        >
          {{ clockTime(gap.from) }} ({{ ((gap.to - gap.from) / 1000).toFixed(1) }} s)
        </button>
      </p>
    </div>

    <section class="flex min-h-0 flex-col border-l border-(--rule) bg-default">
      <header class="flex items-center gap-1 border-b border-default px-4 py-2">
        <h2 class="mr-auto text-lg font-semibold">Ledger</h2>
        <UButton
          color="neutral"
          variant="outline"
          size="sm"
          icon="i-lucide-align-vertical-space-around"
          title="Propose shorter pauses and faster silent writing"
          :aria-pressed="ledger.proposals !== null"
          :disabled="store.readOnly"
          @click="ledger.proposals ? (ledger.proposals = null) : ledger.propose()"
        >
          Tighten <kbd class="key">G</kbd>
        </UButton>
        <UndoRedo />
      </header>
      <TightenPanel :target="target" />
      <StrikeBar />
      <ol
        ref="list"
        class="min-h-0 grow overflow-y-auto"
      >
        <LedgerRow
          v-for="(row, i) in proof.rows"
          :key="`${row.step.id}-${i}`"
          :place="i"
          @compare="compared = $event"
        />
      </ol>
      <footer class="flex items-center gap-3 border-t border-default px-4 py-3">
        <UCheckbox
          v-model="holds"
          :disabled="store.readOnly || proof.edition?.empty"
          label="Looked through: it holds"
        />
        <UButton
          class="ml-auto"
          trailing-icon="i-lucide-arrow-right"
          @click="navigateTo({ path: `/folio/${store.folio!.id}/publish`, query: { q: current.id } })"
        >
          Publish
        </UButton>
      </footer>
    </section>
  </div>
  <div
    v-else
    class="squared grid h-full place-items-center"
  >
    <div
      v-if="!current?.ledger"
      class="max-w-md border border-dashed border-(--rule) bg-(--paper) p-8 text-center"
    >
      <h1 class="text-2xl font-semibold">Nothing to look through yet</h1>
      <p class="my-4 text-toned">
        {{
          !current
            ? 'Draw a rectangle round a question on the Pages screen, then solve it.'
            : proof.otherTakes.length
              ? `${questionName(current)} has takes that are not in use.`
              : `${questionName(current)} has not been recorded.`
        }}
      </p>
      <UButton
        v-for="(take, i) in proof.otherTakes"
        :key="take.id"
        class="m-1"
        variant="outline"
        :disabled="store.readOnly"
        @click="proof.useTake(take)"
      >
        Use take {{ i + 1 }}, {{ clockTime(take.durationMs) }}
      </UButton>
      <UButton :to="current ? `/folio/${store.folio?.id}/solve?q=${current.id}` : `/folio/${store.folio?.id}/pages`">
        {{ current ? 'Record it' : 'Go to Pages' }}
      </UButton>
    </div>
  </div>
</template>
