<script setup lang="ts">
import { stepName, stretchOf } from '#core/cut'
import { questionName, type Question } from '#core/folio'
import { clockTime } from '#core/publish'

const props = defineProps<{ current?: Question }>()
const store = useFolio()
const proof = useProof()
const rows = ref<HTMLElement>()
const comparing = ref(false)
/** Height of a second of the take, px: time runs down the page. */
const PX_PER_SECOND = 13
const LEAST_ROW = 104

watch(
  () => [props.current?.id, props.current?.ledger?.takeId].join(),
  () => {
    void proof.open(props.current ?? null)
  },
  { immediate: true },
)
onBeforeUnmount(() => proof.close())

const board = computed(() => proof.boardAt(proof.time))
const frame = computed(() => board.value.frame ?? proof.take?.frame ?? null)
const page = computed(() => store.folio?.pages.find(p => p.id === frame.value?.pageId) ?? null)
const stretch = (i: number) => stretchOf(proof.ledger!, i, proof.duration)
const heightOf = (i: number) => Math.max(LEAST_ROW, ((stretch(i).to - stretch(i).from) / 1000) * PX_PER_SECOND)
const turnsOf = (i: number) => proof.ledger!.turns.filter(t => t.t >= stretch(i).from && t.t < stretch(i).to)
const addTurn = () => proof.addTurn(proof.time, settings.remembered.turnSeconds, settings.remembered.turnHold)
const settings = useSettings()
const portraitBox = computed(() => proof.portraitAt(proof.time))
const gaps = computed(() => proof.edition?.soundGaps() ?? [])
const cutTime = computed(() => proof.edition?.time.fromTake(proof.time) ?? 0)
const text = (event: Event) => (event.target as HTMLInputElement).value

watch(
  () => proof.step,
  i => {
    rows.value?.children[i]?.scrollIntoView({ block: 'nearest', behavior: 'smooth' })
  },
)
const savePicture = () => frame.value && proof.savePicture(frame.value)
function strike(i = proof.step) {
  const step = proof.ledger?.steps[i]
  if (step)
    proof.editStep(step.id, step.struck ? 'bring a step back' : 'strike out a step', s => {
      s.struck = !s.struck
    })
}
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
useStageKeys('Proof', [
  { key: 'Space', label: 'Play or pause', run: proof.toggle },
  { key: 'ArrowDown', label: 'Next step', run: () => proof.toStep(1) },
  { key: 'ArrowUp', label: 'Step before', run: () => proof.toStep(-1) },
  { key: 'ArrowRight', label: 'Two seconds on', run: () => proof.seek(proof.time + 2000) },
  { key: 'ArrowLeft', label: 'Two seconds back', run: () => proof.seek(proof.time - 2000) },
  { key: 'x', label: 'Strike out this step, or bring it back', run: () => strike() },
  {
    key: 't',
    label: 'Name this step',
    run: () => document.getElementById(`step-${proof.ledger?.steps[proof.step]?.id}`)?.focus(),
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
])
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
      <div class="ticks relative border border-(--frame)">
        <ProofBoard
          :page="page"
          :folio="store.folio"
          :frame="frame"
          :board="board"
          :holding="proof.holding"
        />
        <PortraitPlayer
          v-if="proof.camera && proof.ledger?.portrait"
          v-show="portraitBox"
          :track="proof.camera"
          :time="proof.time"
          :playing="proof.playing && !proof.holding"
          :speed="proof.speed"
          :portrait="proof.ledger.portrait"
          :box="portraitBox ?? undefined"
        />
      </div>
      <div class="mt-5 flex items-center gap-3 border border-(--rule) bg-default px-3 py-2">
        <UButton
          size="lg"
          class="h-11 w-28 justify-center"
          :icon="proof.playing ? 'i-lucide-pause' : 'i-lucide-play'"
          @click="proof.toggle"
        >
          {{ proof.playing ? 'Pause' : 'Play' }}
        </UButton>
        <kbd class="key">Space</kbd>
        <span
          class="serif text-lg"
          data-part="proof-time"
          :data-ms="Math.round(proof.time)"
          >{{ clockTime(cutTime) }} of {{ clockTime(proof.edition?.duration ?? 0) }}</span
        >
        <label class="ml-auto flex items-center gap-2 text-sm"
          >Speed
          <USelect
            v-model="proof.speed"
            :items="proof.SPEEDS.map(s => ({ label: `${s} ×`, value: s }))"
            class="w-24"
          />
        </label>
        <UButton
          color="neutral"
          variant="ghost"
          icon="i-lucide-hand"
          title="Ask the student to try here (J)"
          aria-label="Ask the student to try here"
          :disabled="store.readOnly"
          @click="addTurn"
        />
        <UButton
          color="neutral"
          variant="ghost"
          icon="i-lucide-image-down"
          title="Save this moment as a picture (I)"
          aria-label="Save this moment as a picture"
          @click="savePicture"
        />
      </div>
      <PortraitRow
        v-if="proof.camera"
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
        v-if="gaps.length"
        class="mt-4 border-l-4 border-(--taking) bg-default p-3 text-sm"
      >
        Sound was lost on the way and is silent now:
        <button
          v-for="gap in gaps.slice(0, 12)"
          :key="gap.from"
          type="button"
          class="mr-2 underline"
          @click="proof.seek(gap.from)"
        >
          {{ clockTime(gap.from) }} ({{ ((gap.to - gap.from) / 1000).toFixed(1) }} s)
        </button>
      </p>
    </div>

    <section class="flex min-h-0 flex-col border-l border-(--rule) bg-default">
      <header class="flex items-center gap-1 border-b border-default px-4 py-2">
        <h2 class="mr-auto text-lg font-semibold">Ledger</h2>
        <UndoRedo />
      </header>
      <ol
        ref="rows"
        class="min-h-0 grow overflow-y-auto"
      >
        <li
          v-for="(step, i) in proof.ledger?.steps"
          :key="step.id"
          class="step flex border-b border-(--rule-fine)"
          :class="{ here: i === proof.step, struck: step.struck }"
          :style="{ minHeight: `${heightOf(i)}px` }"
          data-part="step"
        >
          <StepWave
            :peaks="proof.peaks"
            :from="stretch(i).from"
            :to="stretch(i).to"
            :time="proof.time"
            :struck="step.struck"
            @seek="proof.seek"
          />
          <div class="min-w-0 grow px-3 py-2">
            <div class="flex items-center gap-2 text-sm text-toned">
              <button
                type="button"
                class="serif text-lg text-(--lead)"
                :title="`Go to ${stepName(step, i)}`"
                @click="proof.seek(step.t)"
              >
                {{ i + 1 }}
              </button>
              <span>{{ clockTime(step.t) }}, {{ Math.round((stretch(i).to - stretch(i).from) / 1000) }} s</span>
              <span
                v-if="step.struck"
                class="border border-(--rule) px-1.5 text-(--lead)"
                >struck out</span
              >
              <UButton
                class="ml-auto"
                size="sm"
                color="neutral"
                variant="ghost"
                :icon="step.struck ? 'i-lucide-undo-dot' : 'i-lucide-strikethrough'"
                :disabled="store.readOnly"
                @click="strike(i)"
              >
                {{ step.struck ? 'Bring back' : 'Strike out' }}
                <kbd
                  v-if="i === proof.step"
                  class="key"
                  >X</kbd
                >
              </UButton>
            </div>
            <input
              :id="`step-${step.id}`"
              :value="step.title"
              :placeholder="`Name of step ${i + 1}: a line of maths or words`"
              :aria-label="`Name of step ${i + 1}`"
              maxlength="300"
              class="serif name w-full bg-transparent py-1 text-[1.0625rem]"
              :disabled="store.readOnly"
              @change="
                proof.editStep(step.id, 'name a step', s => {
                  s.title = text($event)
                })
              "
            />
            <textarea
              :value="step.words"
              placeholder="What is said here, for captions and search"
              :aria-label="`Words of step ${i + 1}`"
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
            <TurnRow
              v-for="turn in turnsOf(i)"
              :key="turn.id"
              :turn="turn"
              :disabled="store.readOnly"
              @seek="proof.seek(turn.t)"
              @change="proof.editTurn(turn.id, $event)"
              @remove="proof.editTurn(turn.id, null)"
            />
          </div>
        </li>
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
