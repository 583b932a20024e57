<script setup lang="ts">
import { marksOf, questionName, targetMinutes, type Frame, type Question } from '#core/folio'
import { clockTime } from '#core/publish'
import type { TakeEvent } from '#core/take'
import { PENS } from '../../../devices/pen'
import { tapAlong, writeWithSimulatedPen } from '../../../devices/simulatedPen'
import type SolveBoardComponent from '../../../components/SolveBoard.vue'

const props = defineProps<{ current?: Question }>()
const store = useFolio()
const proof = useProof()
const recording = useRecording()
const settings = useSettings()
const notices = useNotices()
const board = ref<InstanceType<typeof SolveBoardComponent>>()
const bench = useBench()
const { frames, at, frame, inFrame, referred, step: stepFrame, showSheet, refer, begin } = useFrames(() => props.current)
const others = computed(() => store.questions.filter(q => q.id !== props.current?.id && store.frame(q)))
const page = computed(() => store.folio?.pages.find(p => p.id === frame.value?.pageId) ?? null)
const take = computed(() => store.takes.find(t => t.id === props.current?.ledger?.takeId) ?? null)
const shown = shallowRef<TakeEvent[]>([])
const first = shallowRef<Frame | null>(null)
const sheets = ref(false)
const referring = ref(false)

watch(() => take.value?.id, async () => {
  const laid = take.value ? await proof.laidLog(take.value) : null
  first.value = laid?.first ?? null
  shown.value = laid?.events ?? []
}, { immediate: true })
watch(() => props.current, (question) => { bench.question = question ?? null }, { immediate: true })
onMounted(() => { void recording.findMicrophones() })

const microphoneItems = computed(() => recording.microphones.map(m => ({ label: m.label, value: m.id })))
const microphone = computed({ get: () => recording.chosen.id, set: (id: string) => { settings.remembered.microphone = id } })
const penItems = PENS.map(p => ({ label: p.label, value: p.id as string }))
const penButtons = [{ label: 'Pointer with a fading trail', value: 'pointer' }, { label: 'Eraser', value: 'eraser' }, { label: 'Straight lines and shapes', value: 'straight' }, { label: 'Step mark', value: 'step' }]
const countdowns = [{ label: 'No countdown', value: 0 }, { label: '3 seconds', value: 3 }, { label: '5 seconds', value: 5 }]

function record() {
  if (recording.state !== 'rest' || !props.current) return
  const first = begin()
  if (first) void recording.start(props.current, first)
}
async function stop() {
  const counting = recording.state === 'counting'
  const question = props.current
  await recording.stop()
  if (!counting && question && recording.state === 'rest') await navigateTo({ path: `/folio/${store.folio!.id}/proof`, query: { q: question.id } })
}

function askRefer() {
  const back = referred.value !== null
  if (back) refer(null)
  referring.value = !back && !referring.value
}

const writing = ref(false)
let hand: AbortController | null = null
async function writeSimulated() {
  if (!board.value || writing.value) return
  writing.value = true
  bench.choose(settings.remembered.role)
  hand = new AbortController()
  const { left, top, width, height } = board.value.seenPx
  try {
    await writeWithSimulatedPen(settings.remembered.simulatedText, { x: left + width * 0.12, y: top + height * 0.48 }, settings.remembered.role, board.value.listener, hand.signal)
  }
  catch (error) { notices.tell(error, 'writing with the simulated pen') }
  writing.value = false
}
let stopTaps = () => {}
watch(() => recording.state, (state, before) => {
  if (state === 'settling' || state === 'rest') {
    hand?.abort()
    stopTaps()
  }
  if (state === 'running' && before === 'counting' && settings.remembered.pen === 'sim:taps' && board.value) {
    const { left, top, height } = board.value.seenPx
    stopTaps = tapAlong({ x: left + 40, y: top + height * 0.6 }, board.value.listener)
  }
})
onBeforeUnmount(() => {
  hand?.abort()
  stopTaps()
})

useSolveKeys({
  record, stop: () => { void stop() }, stepFrame, backToFrame: () => board.value?.backToFrame(), writeSimulated: () => { void writeSimulated() },
  refer: askRefer,
  lookUp: () => { sheets.value = !sheets.value },
})
</script>

<template>
  <div
    v-if="current && frame && page"
    class="grid h-full grid-rows-[3.5rem_1fr]"
    :class="sheets ? 'grid-cols-[1fr_22rem]' : 'grid-cols-[1fr_15.5rem]'"
  >
    <div class="col-span-2 flex items-center gap-3 border-b border-(--rule-fine) bg-default px-4">
      <template v-if="recording.state === 'rest'">
        <h1 class="mr-auto min-w-0 truncate text-xl font-semibold">
          {{ questionName(current) }}
          <span
            v-if="marksOf(current) !== null"
            class="ml-2 font-sans text-sm font-normal text-toned"
          >{{ marksOf(current) }} {{ marksOf(current) === 1 ? 'mark' : 'marks' }}, about {{ targetMinutes(current, store.folio!) }} min</span>
        </h1>
        <UButton
          color="neutral"
          variant="outline"
          icon="i-lucide-book-open-text"
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
        <UPopover>
          <UButton
            color="neutral"
            variant="outline"
            icon="i-lucide-mic"
            class="max-w-80"
            data-part="devices"
          >
            <span class="truncate">{{ recording.chosen.label }}</span>
          </UButton>
          <template #content>
            <div class="flex w-96 flex-col gap-4 p-4">
              <UFormField label="Microphone">
                <USelect
                  v-model="microphone"
                  :items="microphoneItems"
                  class="w-full"
                />
              </UFormField>
              <UFormField label="Pen">
                <USelect
                  v-model="settings.remembered.pen"
                  :items="penItems"
                  class="w-full"
                />
              </UFormField>
              <UFormField
                v-if="settings.remembered.pen === 'sim:pen'"
                label="What the simulated pen writes"
              >
                <UTextarea
                  v-model="settings.remembered.simulatedText"
                  class="w-full"
                  :rows="2"
                />
              </UFormField>
              <UFormField label="Button on the pen">
                <USelect
                  v-model="settings.remembered.penButton"
                  :items="penButtons"
                  class="w-full"
                />
              </UFormField>
              <UCheckbox
                v-model="settings.remembered.follow"
                label="Ink is centred in the squares of columns and divisions"
              />
              <UFormField label="Before a take">
                <USelect
                  v-model="settings.remembered.countdown"
                  :items="countdowns"
                  class="w-full"
                />
              </UFormField>
              <UCheckbox
                v-model="settings.remembered.calm"
                label="No moving parts in the interface"
              />
            </div>
          </template>
        </UPopover>
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
        @write="writeSimulated"
        @refer="askRefer"
        @stop="stop"
      />
    </div>

    <SolveBoard
      ref="board"
      :page="page"
      :frame="frame"
      :tray-side="settings.remembered.traySide"
      :shown="shown"
      :first="first"
    >
      <template #default="{ seenPx }">
        <ReferBack
          v-if="referring || referred"
          class="absolute top-2 left-2 z-10 max-w-[70%]"
          :referred="referred"
          :others="others"
          @refer="refer($event); referring = false"
        />
        <FrameStep
          v-if="frames.length > 1"
          class="absolute -translate-x-1/2"
          :style="{ left: `${seenPx.left + seenPx.width / 2}px`, top: `${seenPx.top + seenPx.height + 10}px` }"
          :at="at"
          :of="frames.length"
          @step="stepFrame"
        />
        <PenTray
          class="absolute"
          :style="{ top: `max(8px, min(${seenPx.top}px, calc(100% - 526px)))`, ...(settings.remembered.traySide === 'right' ? { left: `${seenPx.left + seenPx.width + 14}px` } : { left: `${seenPx.left - 108}px` }) }"
          :tool="bench.tool"
          :can-undo="recording.canUndo"
          :can-redo="recording.canRedo"
          @choose="bench.choose($event)"
          @undo="recording.undo"
          @redo="recording.redo"
          @side="settings.remembered.traySide = settings.remembered.traySide === 'right' ? 'left' : 'right'"
        />
        <div
          class="absolute inset-x-2 bottom-2 border border-(--rule) bg-default"
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
      <h2 class="border-b border-default px-4 py-3 text-lg font-semibold">
        {{ recording.active ? 'Steps of this take' : 'Ledger' }}
      </h2>
      <ol
        v-if="recording.active"
        class="min-h-0 grow overflow-y-auto"
      >
        <li
          v-for="t, i in [0, ...recording.steps]"
          :key="t"
          class="flex gap-3 border-b border-(--rule-fine) px-4 py-3"
        >
          <span class="serif text-lg">{{ i + 1 }}</span>
          <span class="text-toned">from {{ clockTime(t) }}</span>
          <span
            v-if="i === recording.steps.length"
            class="ml-auto text-sm font-bold"
          >now</span>
        </li>
      </ol>
      <ol
        v-else-if="current.ledger"
        class="min-h-0 grow overflow-y-auto"
      >
        <li
          v-for="step, i in current.ledger.steps"
          :key="step.id"
          class="flex gap-3 border-b border-(--rule-fine) px-4 py-2.5"
          :class="{ 'text-dimmed line-through': step.struck }"
        >
          <span class="serif w-5 shrink-0 text-lg">{{ i + 1 }}</span>
          <span class="grow">{{ step.title || `Step ${i + 1}` }}</span>
          <span class="text-sm text-toned">{{ clockTime(step.t) }}</span>
        </li>
      </ol>
      <p
        v-else
        class="px-4 py-4 text-sm text-toned"
      >
        The steps of the solution will stand here. Press <kbd class="key">R</kbd>, write and talk, and press <kbd class="key">Space</kbd> when a step is done.
      </p>
      <HeldPanel class="mt-auto max-h-[55%] shrink-0" />
      <p
        v-if="!recording.active && take"
        class=" border-t border-default px-4 py-3 text-sm text-toned"
      >
        Take of {{ clockTime(take.durationMs) }}, {{ new Date(take.startedAt).toLocaleDateString() }}. Recording again keeps it, and puts the new one in its place.
      </p>
    </aside>
  </div>
  <div
    v-else
    class="squared grid h-full place-items-center"
  >
    <div class="max-w-md border border-dashed border-(--rule) bg-(--paper) p-8 text-center">
      <h1 class="text-2xl font-semibold">
        No question to solve yet
      </h1>
      <p class="my-4 text-toned">
        Draw a rectangle round a question on the Pages screen; it becomes the frame that students see.
      </p>
      <UButton :to="`/folio/${store.folio?.id}/pages`">
        Go to Pages
      </UButton>
    </div>
  </div>
</template>
