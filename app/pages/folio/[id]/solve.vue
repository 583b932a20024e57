<script setup lang="ts">
import { editionLength } from '#core/edition'
import { marksOf, questionName, STEP_TAKES, targetMinutes, type Frame, type Question, type StepTake } from '#core/folio'
import type { TakeEvent } from '#core/recording'
import type SolveBoardComponent from '../../../components/solve/SolveBoard.vue'

const props = defineProps<{ current?: Question }>()
const store = useFolio()
const proof = useProof()
const recording = useRecording()
const settings = useSettings()
const notices = useNotices()
const board = ref<InstanceType<typeof SolveBoardComponent>>()
const bench = useBench()
const lines = useLines()
const camera = useCamera()
const clips = useClips()
const {
  frames,
  at,
  frame,
  inFrame,
  referred,
  step: stepFrame,
  showSheet,
  refer,
  follow,
  begin,
} = useFrames(() => props.current)
const others = computed(() => store.questions.filter(q => q.id !== props.current?.id && store.frame(q)))
const page = computed(() => store.folio?.pages.find(p => p.id === frame.value?.pageId) ?? null)
const take = computed(() => store.takes.find(t => t.id === props.current?.ledger?.takeId) ?? null)
const shown = shallowRef<readonly TakeEvent[]>([])
const first = shallowRef<Frame | null>(null)
const sheets = ref(false)
const referring = ref(false)
const clipsOpen = ref(false)

watch(
  () => take.value?.id,
  async id => {
    let laid: Awaited<ReturnType<typeof proof.laidLog>> | null = null
    try {
      laid = take.value ? await proof.laidLog(take.value) : null
    } catch (error) {
      notices.tell(error, 'opening the take')
    }
    // Another question may have been chosen while its ink was read.
    if (take.value?.id !== id) return
    first.value = laid?.first ?? null
    shown.value = laid?.events ?? []
  },
  { immediate: true },
)
// Where the take went back, the frame goes along.
watch(
  () => recording.elapsed,
  t => {
    if (recording.takeDesk?.sealed) follow(recording.takeDesk.board.at(t).frame)
  },
)
watch(
  () => recording.steps,
  () => {
    if (recording.takeDesk) follow(recording.takeDesk.board.last().frame)
  },
)
watch(
  () => props.current,
  question => {
    bench.question = question ?? null
  },
  { immediate: true },
)

function record() {
  if (clipsOpen.value) return void clips.record()
  if (recording.state !== 'rest' || !props.current) return
  const first = begin()
  if (first) void recording.start(props.current, first)
}
/** Records anew from a step of the take in use on. */
async function retake(t: number) {
  const question = props.current,
    of = take.value
  if (recording.state !== 'rest' || !question || !of) return
  try {
    const laid = await proof.laidLog(of)
    await proof.tellMendsFrom(of, question, t)
    begin()
    void recording.start(question, laid.first, { kind: 'anew', of: { take: of, ...laid }, t })
    follow(recording.takeDesk?.board.last().frame)
  } catch (error) {
    notices.tell(error, 'opening the take')
  }
}
/** Records one step of the take in use once more: all of it, its voice or its ink. */
async function remake(stepId: string, as: StepTake) {
  const question = props.current,
    of = take.value
  if (recording.state !== 'rest' || !question || !of) return
  try {
    const plan = await proof.planForStep(of, question, stepId, as)
    if (!plan) return
    begin()
    void recording.start(question, plan.of.first, plan)
    follow(recording.takeDesk?.board.last().frame)
  } catch (error) {
    notices.tell(error, 'opening the take')
  }
}
// Sent here from Proof, to record one step once more.
const route = useRoute()
onMounted(() => {
  const step = props.current?.ledger?.steps.find(s => s.id === route.query.step)
  const as = STEP_TAKES.find(x => x === route.query.as) ?? 'anew'
  if (!step) return
  void navigateTo({ path: route.path, query: { q: props.current!.id } }, { replace: true })
  void remake(step.id, as)
})
/** Talks over the ink of the take in use, or writes over its sound. */
async function over(kind: 'voice' | 'ink') {
  const question = props.current,
    of = take.value,
    ledger = question?.ledger
  if (recording.state !== 'rest' || !question || !of || !ledger) return
  try {
    const laid = await proof.laidLog(of)
    const first = begin()
    if (first)
      void recording.start(question, kind === 'voice' ? laid.first : first, { kind, of: { take: of, ...laid }, ledger })
  } catch (error) {
    notices.tell(error, 'opening the take')
  }
}
function practise() {
  const first = begin()
  if (first && props.current) void recording.start(props.current, first, { kind: 'practice' })
}
/** Target time of a question, ms; 0 where nothing is planned. */
const planned = (q: Question) => (targetMinutes(q, store.folio!) ?? 0) * 60_000
/** What the other questions' solutions last together, and what is planned for all, ms. */
const folioTime = computed(() => ({
  done: store.questions
    .filter(q => q.id !== props.current?.id)
    .reduce((sum, q) => {
      const of = store.takes.find(t => t.id === q.ledger?.takeId)
      return sum + (q.ledger && of ? editionLength(q.ledger, of) : 0)
    }, 0),
  target: store.questions.reduce((sum, q) => sum + planned(q), 0),
}))
/** The next question that is not recorded: a solution that is there is not replaced in passing. */
const next = computed(() => {
  const i = store.questions.findIndex(q => q.id === props.current?.id)
  return (
    store.questions.slice(i + 1).find(q => store.frame(q) && !q.ledger && !recording.settling.includes(q.id)) ?? null
  )
})
/** Ends this take and begins that of the next question, without a stop between them. */
async function goOn() {
  const question = next.value
  const first = question && store.frame(question)
  if (!question || !first || recording.state === 'counting') return
  await lines.settleDraft()
  await recording.goOnWith(question, first, async () => {
    await navigateTo({ query: { q: question.id } })
  })
}
async function stop() {
  if (recording.kind === 'clip') return clips.stop()
  const counting = recording.state === 'counting' || recording.kind === 'practice'
  const question = props.current
  // A line that is still being typed belongs to the take.
  await lines.settleDraft()
  await recording.stop()
  // A take that is only kept beside leaves her here, where she can choose it or record again.
  const isRecorded = store.questions.some(q => q.id === question?.id && q.ledger)
  if (!counting && question && isRecorded && recording.state === 'rest')
    await navigateTo({ path: `/folio/${store.folio!.id}/proof`, query: { q: question.id } })
}

function referTo(question: Question | null) {
  refer(question)
  referring.value = false
}
function askRefer() {
  const back = referred.value !== null
  if (back) refer(null)
  referring.value = !back && !referring.value
}

const { writing, write: writeSimulated } = useSimulatedPen(() => board.value)

usePadActions(
  {
    record,
    stop: () => {
      void stop()
    },
    next: () => {
      void goOn()
    },
    refer: askRefer,
  },
  () => (props.current ? questionName(props.current) : ''),
)
useSolveKeys({
  record,
  stop: () => {
    void stop()
  },
  next: () => {
    if (recording.kind !== 'plain') return 'Only a take of a whole question goes on with the next one.'
    if (!next.value) return 'No question after this one waits to be recorded. S ends the take.'
    void goOn()
  },
  stepFrame,
  backToFrame: () => board.value?.backToFrame(),
  writeSimulated: () => {
    void writeSimulated()
  },
  refer: askRefer,
  lookUp: () => {
    sheets.value = !sheets.value
  },
  looking: () => sheets.value,
})
</script>

<template>
  <div
    v-if="current && frame && page"
    class="grid h-full grid-rows-[3.5rem_1fr]"
    :class="sheets ? 'grid-cols-[1fr_22rem]' : 'grid-cols-[1fr_15.5rem]'"
  >
    <div class="col-span-2 flex items-center gap-3 border-b border-(--rule-fine) bg-default px-4">
      <template v-if="recording.state === 'rest' || recording.kind === 'clip'">
        <h1 class="mr-auto flex min-w-0 grow items-baseline gap-2 text-xl font-semibold">
          <QuestionTitle
            :question="current"
            class="grow"
          />
          <span
            v-if="marksOf(current) !== null"
            class="shrink-0 font-sans text-sm font-normal text-toned"
            >{{ marksOf(current) }} {{ marksOf(current) === 1 ? 'mark' : 'marks' }}, about
            {{ targetMinutes(current, store.folio!) }} min</span
          >
        </h1>
        <UButton
          color="neutral"
          variant="outline"
          icon="i-lucide-book-open-text"
          class="shrink-0 whitespace-nowrap"
          title="Units, formulas, constants, elements, powers (L)"
          :aria-pressed="sheets"
          @click="sheets = !sheets"
        >
          Look up <kbd class="key">L</kbd>
        </UButton>
        <UButton
          v-if="settings.remembered.pen === 'sim:pen'"
          color="neutral"
          variant="outline"
          icon="i-lucide-pen-line"
          :disabled="writing"
          @click="writeSimulated"
        >
          Write <kbd class="key">W</kbd>
        </UButton>
        <UButton
          color="neutral"
          variant="outline"
          icon="i-lucide-square-user-round"
          class="shrink-0"
          title="A few words of you before or after the question"
          @click="clipsOpen = true"
        >
          Clips
        </UButton>
        <DevicesPanel @practise="practise" />
        <UButton
          color="error"
          size="xl"
          icon="i-lucide-circle"
          class="h-11 px-5"
          :disabled="store.readOnly"
          @click="record"
        >
          Record <kbd class="key">R</kbd>
        </UButton>
      </template>
      <template v-else-if="recording.state === 'settling'">
        <p
          class="flex items-center gap-4"
          role="status"
        >
          Putting the take together
          <UProgress class="w-64" />
        </p>
      </template>
      <TakeBar
        v-else
        :writing="writing"
        :referring="referring || referred !== null"
        :can-refer="others.length > 0"
        :target="recording.single ? 0 : planned(current)"
        :next="recording.kind === 'plain' ? (next?.number ?? null) : null"
        @next="goOn"
        @write="writeSimulated"
        @refer="askRefer"
        @stop="stop"
      />
    </div>

    <ClipsDialog
      v-if="clipsOpen"
      :question="current"
      @close="clipsOpen = false"
    />
    <SolveBoard
      ref="board"
      :page="page"
      :frame="frame"
      :tray-side="settings.remembered.traySide"
      :shown="shown"
      :first="first"
    >
      <template #default="{ seenPx }">
        <TakeWarnings class="absolute inset-x-2 top-1 z-20" />
        <LivePortrait
          v-if="camera.on && recording.kind !== 'clip'"
          :frame="frame"
          :place="seenPx"
        />
        <ReferBack
          v-if="referring || referred"
          class="absolute top-2 left-2 z-10 max-w-[70%]"
          :referred="referred"
          :others="others"
          @refer="referTo"
        />
        <FrameStep
          v-if="frames.length > 1"
          class="absolute -translate-x-1/2"
          :style="{ left: `${seenPx.left + seenPx.width / 2}px`, top: `${seenPx.top + seenPx.height + 10}px` }"
          :at="at"
          :of="frames.length"
          @step="stepFrame"
        />
        <TrayBeside
          :seen="seenPx"
          :class="{ invisible: recording.played }"
          :style="{ top: `max(8px, min(${seenPx.top}px, calc(100% - 526px)))` }"
        />
        <div
          class="absolute inset-x-2 bottom-2 border border-(--rule) bg-default"
          :class="{ invisible: recording.played }"
          data-part="tools"
        >
          <p
            v-if="bench.trouble && ['guide', 'figure', 'option', 'tally'].includes(bench.tool)"
            class="absolute -left-px bottom-full mb-1 max-w-2xl border-2 border-(--taking) bg-default px-3 py-1.5 text-sm"
            role="alert"
            data-part="tool-trouble"
          >
            {{ bench.trouble.message }} {{ bench.trouble.next }}
          </p>
          <ToolOptions class="overflow-x-auto border-b border-(--rule-fine) px-1 py-0.5" />
          <ToolBench />
        </div>
      </template>
    </SolveBoard>

    <SheetShelf
      v-if="sheets"
      :in-frame="inFrame"
      @show="showSheet"
      @close="sheets = false"
    />
    <aside
      v-else
      class="flex min-h-0 flex-col border-l border-(--rule) bg-default"
    >
      <CheckPanel
        v-if="recording.state === 'rest'"
        :key="current.id"
        :question="current"
      />
      <StepsPanel
        :question="current"
        :take="take"
        :folio-time="folioTime"
        @retake="retake"
        @remake="remake"
        @over="over"
      />
      <HeldPanel class="mt-auto max-h-[55%] shrink-0" />
      <NotesPanel :question="current" />
    </aside>
  </div>
  <div
    v-else
    class="squared grid h-full place-items-center"
  >
    <div class="max-w-md border border-dashed border-(--rule) bg-(--paper) p-8 text-center">
      <h1 class="text-2xl font-semibold">No question to solve yet</h1>
      <p class="my-4 text-toned">
        Draw a rectangle round a question on the Pages screen; it becomes the frame that students see.
      </p>
      <UButton :to="`/folio/${store.folio?.id}/pages`"> Go to Pages </UButton>
    </div>
  </div>
</template>
