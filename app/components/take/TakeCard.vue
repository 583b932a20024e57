<script setup lang="ts">
import type { Ledger, Question, Take } from '#core/folio'
import { clockTime, dateAndTime } from '#core/publish'

/** One take among several: what it shows and how it sounds, to be compared with the others. */
const props = defineProps<{
  question: Question
  take: Take
  number: number
  playing: boolean
  /** For a version of one step: the ledger that shows it alone, and what it is. */
  alone?: { ledger: Ledger; what: string; inUse: boolean }
}>()
const emit = defineEmits<{ play: [on: boolean]; use: [] }>()
const store = useFolio()
const proof = useProof()
const notices = useNotices()
const opened = shallowRef<Awaited<ReturnType<typeof proof.comparable>> | null>(null)
/** Moment of the cut that is shown, ms; its end until it is moved. */
const moved = ref<number | null>(null)

onMounted(async () => {
  try {
    opened.value = await proof.comparable(props.question, props.take, props.alone?.ledger)
  } catch (error) {
    notices.tell(error, 'opening the take')
  }
})
const edition = computed(() => opened.value?.edition ?? null)
const duration = computed(() => edition.value?.duration ?? 0)
const time = computed(() => Math.min(moved.value ?? Infinity, duration.value))
const board = computed(() => edition.value?.boardAt(time.value) ?? null)
const frame = computed(() => board.value?.frame ?? edition.value?.first ?? null)
const page = computed(() => store.folio?.pages.find(p => p.id === frame.value?.pageId) ?? null)
const facts = computed(() => {
  if (!edition.value) return ''
  if (props.alone) return props.alone.what
  const { steps } = edition.value.ledger,
    struck = steps.filter(s => s.struck).length,
    gaps = edition.value.soundGaps()
  return [
    `${steps.length} ${steps.length === 1 ? 'step' : 'steps'}${struck ? `, ${struck} struck out` : ''}`,
    opened.value?.soundless
      ? 'no sound at all'
      : gaps.length
        ? `${gaps.length} ${gaps.length === 1 ? 'loss' : 'losses'} of sound`
        : 'no sound lost',
    props.take.state === 'recovered' ? 'cut off' : '',
  ]
    .filter(Boolean)
    .join('; ')
})
const inUse = computed(() => props.alone?.inUse ?? props.question.ledger?.takeId === props.take.id)
const name = computed(() => `${props.alone ? 'version' : 'take'} ${props.number}`)

const player = computed(() => opened.value?.player)
onBeforeUnmount(() => player.value?.close())

useRafFn(() => {
  if (!props.playing || !player.value?.playing) return
  moved.value = player.value.time
  if (player.value.time >= duration.value) emit('play', false)
})
const start = () => player.value?.play(time.value, 1).catch(() => emit('play', false))
watch(
  () => props.playing,
  on => {
    if (!on) return player.value?.pause()
    if (time.value >= duration.value - 100) moved.value = 0
    void start()
  },
)
function seek(t: number) {
  moved.value = t
  if (props.playing) void start()
}
</script>

<template>
  <li
    class="flex flex-col border border-(--rule) bg-default"
    data-part="take-card"
  >
    <ProofBoard
      v-if="store.folio && frame && page && board"
      :page="page"
      :folio="store.folio"
      :frame="frame"
      :board="board"
    />
    <div
      v-else
      class="aspect-video w-full bg-(--ui-bg-elevated)"
    />
    <div class="flex items-center gap-2 border-t border-(--rule-fine) px-2">
      <UButton
        color="neutral"
        variant="ghost"
        class="size-11 justify-center"
        :icon="playing ? 'i-lucide-pause' : 'i-lucide-play'"
        :aria-label="playing ? `Pause ${name}` : `Play ${name}`"
        @click="$emit('play', !playing)"
      />
      <input
        type="range"
        min="0"
        :max="duration"
        :value="time"
        class="min-w-0 grow accent-(--frame)"
        :aria-label="`Moment of ${name}`"
        @input="seek(Number(($event.target as HTMLInputElement).value))"
      />
      <span class="serif w-24 text-right text-sm tabular-nums">{{ clockTime(time) }} of {{ clockTime(duration) }}</span>
    </div>
    <div class="flex items-center gap-2 px-3 pb-3">
      <p class="min-w-0 grow text-sm">
        <strong class="capitalize">{{ name }}</strong
        ><template v-if="!alone">, {{ dateAndTime(take.startedAt) }}</template>
        <span class="block text-toned">{{ facts }}</span>
      </p>
      <span
        v-if="inUse"
        class="border border-(--rule) px-2 py-1 text-sm font-bold"
        >in use</span
      >
      <UButton
        v-else
        class="h-11"
        :disabled="store.readOnly"
        @click="$emit('use')"
      >
        Use this one
      </UButton>
    </div>
  </li>
</template>
