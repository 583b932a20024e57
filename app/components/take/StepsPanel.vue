<script setup lang="ts">
import type { Question, StepTake, Take } from '#core/folio'
import { canRemake, stepName } from '#core/cut'
import { clockTime, dayOf } from '#core/publish'
import { pathOf } from '#core/recording'

/**
 * The steps beside the board: those of the running take, or those that the question has, with the way to record one of
 * them anew.
 */
const props = defineProps<{ question: Question; take: Take | null; folioTime: { done: number; target: number } }>()
const emit = defineEmits<{
  retake: [t: number]
  remake: [step: string, as: StepTake]
  over: [what: 'voice' | 'ink']
}>()
const REMAKES: [as: StepTake, label: string, icon: string, title: string][] = [
  ['anew', 'Anew', 'i-lucide-replace', 'Ink and voice are recorded once more'],
  ['voice', 'Voice', 'i-lucide-mic', 'Its ink plays, and goes by in the time that you talk'],
  ['ink', 'Ink', 'i-lucide-pen-line', 'Its sound plays; only what you write is recorded'],
]
const recording = useRecording()
const proof = useProof()
const store = useFolio()
const chosen = ref<string | null>(null)
const comparing = ref(false)
watch(
  () => props.question.ledger?.takeId,
  () => {
    chosen.value = null
  },
)
const takes = computed(() => store.takesOf(props.question.id))
const takeItems = computed(() =>
  takes.value.map((t, i) => ({
    label: `Take ${i + 1}, ${clockTime(t.durationMs)}, ${dayOf(t.startedAt)}`,
    value: t.id,
  })),
)
const inUse = computed<string | undefined>({
  get: () => props.take?.id,
  set: id => {
    const next = takes.value.find(t => t.id === id)
    if (next && id !== props.take?.id) void proof.putTakeInUse(props.question, next)
  },
})
const turns = computed(() => {
  void recording.changes
  return pathOf(recording.takeDesk?.events ?? [])
    .filter(e => e.type === 'turn')
    .map(e => e.t)
})
/** The steps of the running take; talking or writing over another one, the steps that it has. */
const rows = computed(() => {
  const steps = (props.question.ledger?.steps ?? []).map((s, i) => ({
    id: s.id,
    t: s.t,
    name: stepName(s, i),
    struck: s.struck,
  }))
  if (recording.single) return steps.filter(s => s.id === recording.single).map(s => ({ ...s, t: 0 }))
  return recording.stepped ? [0, ...recording.steps].map(t => ({ t, name: '', struck: false })) : steps
})
/** The step that is being recorded, or that plays. */
const now = computed(() => rows.value.filter(r => recording.stepped || r.t <= recording.elapsed).length - 1)
const turnIn = (from: number, to: number | undefined) => turns.value.some(t => t >= from && t < (to ?? Infinity))
</script>

<template>
  <h2 class="flex items-baseline gap-2 border-b border-default px-4 py-3 text-lg font-semibold">
    {{
      !recording.active
        ? 'Ledger'
        : recording.behind
          ? 'After this step'
          : recording.single
            ? 'Only this step'
            : 'Steps of this take'
    }}
    <span
      v-if="recording.settling.includes(question.id)"
      class="ml-auto text-sm font-normal text-toned"
      role="status"
      >being put together</span
    >
  </h2>
  <p
    v-if="
      recording.active &&
      folioTime.target &&
      !recording.single &&
      (recording.kind === 'plain' || recording.kind === 'anew')
    "
    class="border-b border-default px-4 py-2 text-sm text-toned"
    data-part="folio-time"
  >
    All questions: {{ clockTime(folioTime.done + recording.kept) }} of {{ clockTime(folioTime.target) }}
  </p>
  <ol
    v-if="recording.active"
    class="min-h-0 grow overflow-y-auto"
    data-part="take-steps"
  >
    <li
      v-for="({ t, name, struck }, i) in rows"
      :key="t"
      class="flex items-center gap-3 border-b border-(--rule-fine) px-4 py-2.5"
    >
      <span class="serif text-lg">{{ i + 1 }}</span>
      <span
        v-if="name"
        class="min-w-0 grow"
        :class="{ 'text-dimmed line-through': struck }"
        >{{ name }}</span
      >
      <span
        v-if="!name || i !== now"
        class="text-toned"
        >{{ name ? '' : 'from ' }}{{ clockTime(recording.keptAt(t)) }}</span
      >
      <span
        v-if="turnIn(t, rows[i + 1]?.t)"
        class="inline-flex items-center gap-1 text-sm"
        ><UIcon name="i-lucide-hand" /> your turn</span
      >
      <span
        v-if="i === now"
        class="ml-auto text-sm font-bold"
        >now</span
      >
    </li>
  </ol>
  <ol
    v-else-if="question.ledger"
    class="min-h-0 grow overflow-y-auto"
    data-part="ledger-steps"
  >
    <li
      v-for="(step, i) in question.ledger.steps"
      :key="step.id"
      class="border-b border-(--rule-fine)"
    >
      <button
        type="button"
        class="flex min-h-11 w-full gap-3 px-4 py-2.5 text-left hover:bg-elevated"
        :class="{ 'text-dimmed line-through': step.struck, 'bg-elevated': chosen === step.id }"
        :aria-expanded="chosen === step.id"
        @click="chosen = chosen === step.id ? null : step.id"
      >
        <span class="serif w-5 shrink-0 text-lg">{{ i + 1 }}</span>
        <span class="grow">{{ stepName(step, i) }}</span>
        <span class="text-sm text-toned">{{ clockTime(step.t) }}</span>
      </button>
      <div
        v-if="chosen === step.id"
        class="px-4 pb-3"
      >
        <UButton
          class="h-11 w-full justify-center"
          color="neutral"
          variant="outline"
          icon="i-lucide-circle-dot"
          :disabled="store.readOnly || recording.settling.length > 0"
          title="The board stands as it stood there; the moments before are played, and recording goes on"
          @click="emit('retake', step.t)"
        >
          Record anew from here
        </UButton>
        <p class="mt-3 mb-1 text-sm text-toned">Only this step; what comes after it stays</p>
        <div class="flex gap-1">
          <UButton
            v-for="[as, label, icon, title] in REMAKES.filter(([as]) => canRemake(step, as))"
            :key="as"
            class="h-11 grow justify-center px-1"
            color="neutral"
            variant="outline"
            :icon="icon"
            :disabled="store.readOnly || recording.settling.length > 0"
            :title="title"
            @click="emit('remake', step.id, as)"
          >
            {{ label }}
          </UButton>
        </div>
        <UButton
          class="mt-3 h-11 w-full justify-center"
          color="neutral"
          variant="outline"
          icon="i-lucide-list-plus"
          :disabled="store.readOnly || recording.settling.length > 0"
          title="A step of its own, on the board as it stands there; all others stay"
          @click="emit('remake', step.id, 'after')"
        >
          Record a step after it
        </UButton>
      </div>
    </li>
  </ol>
  <p
    v-else
    class="px-4 py-4 text-sm text-toned"
  >
    The steps of the solution will stand here. Press <kbd class="key">R</kbd>, write and talk, and press
    <kbd class="key">Space</kbd> when a step is done.
  </p>
  <div
    v-if="!recording.active && take"
    class="flex flex-wrap gap-1 border-t border-default px-3 py-1.5"
    data-part="over"
  >
    <UButton
      class="h-11"
      color="neutral"
      variant="ghost"
      icon="i-lucide-mic"
      :disabled="store.readOnly || recording.chosen.id === 'none'"
      title="Its ink plays as it was written; only your voice is recorded"
      @click="emit('over', 'voice')"
    >
      Talk over
    </UButton>
    <UButton
      class="h-11"
      color="neutral"
      variant="ghost"
      icon="i-lucide-pen-line"
      :disabled="store.readOnly"
      title="Its sound plays as it was spoken; only what you write is recorded"
      @click="emit('over', 'ink')"
    >
      Write over
    </UButton>
  </div>
  <div
    v-if="!recording.active && takes.length > (question.ledger ? 1 : 0)"
    class="flex gap-2 border-t border-default px-4 py-2"
    data-part="takes"
  >
    <USelect
      v-model="inUse"
      :items="takeItems"
      class="h-11 min-w-0 grow"
      aria-label="The take in use"
      placeholder="No take in use"
    />
    <UButton
      color="neutral"
      variant="outline"
      class="h-11"
      icon="i-lucide-columns-2"
      aria-label="Compare the takes"
      title="Compare the takes"
      @click="comparing = true"
    />
    <TakesDialog
      v-if="comparing"
      :question="question"
      @close="comparing = false"
    />
  </div>
</template>
