<script setup lang="ts">
import { questionName } from '#core/folio'
import { clockTime } from '#core/publish'
import { Replay } from '../../../student/replay'
import { voiceClock } from '../../../student/voice'

/** What one student handed in: her question on the board as it stood, or her explanation as it is played. */
const handIns = useHandIns()
const store = useFolio()
const shown = computed(() => handIns.shown!)
const open = computed({
  get: () => handIns.shown !== null,
  set: () => handIns.close(),
})
const of = computed(() => shown.value.of)
const title = computed(() => questionName(of.value.question))
const said = computed(() => (of.value.kind === 'stuck' ? of.value.stuck.says : ''))
const board = useTemplateRef('board')
const above = useTemplateRef('above')
const replay = shallowRef<Replay | null>(null)
const playing = ref(false)
const time = ref(0)
const silent = ref(false)
watch([board, above, shown], async ([canvas, over, what]) => {
  if (!canvas || !over || what?.kind !== 'replay' || replay.value) return
  const clock = what.sound && (await voiceClock(what.sound, what.lesson.duration))
  silent.value = what.sound !== null && !clock
  const made = (replay.value = new Replay(what.lesson, canvas, over, clock ?? undefined))
  made.stage.follows = false
  made.watch({ time: t => (time.value = t), playing: on => (playing.value = on) })
})
onBeforeUnmount(() => replay.value?.pause())
function seek(event: Event) {
  replay.value?.seek(Number((event.target as HTMLInputElement).value))
}
const answer = ref('')
/** The answer stands on the page from its next version on, at the step that was asked about. */
async function reply() {
  if (of.value.kind !== 'stuck' || !answer.value.trim()) return
  await handIns.reply(of.value, answer.value.trim())
  answer.value = ''
}
const where = computed(() => ({
  path: `/folio/${store.folio?.id}/proof`,
  query: { q: of.value.question.id, ...(of.value.kind === 'stuck' ? { t: String(Math.round(of.value.stuck.t)) } : {}) },
}))
</script>

<template>
  <UModal
    v-model:open="open"
    :title="title"
    :description="of.kind === 'stuck' ? 'A student is stuck here.' : `Explained by ${of.by || 'a student'}.`"
    :ui="{ content: 'max-w-4xl' }"
  >
    <template #body>
      <img
        v-if="shown.kind === 'picture'"
        :src="shown.url"
        alt="The board at that moment, with what the student wrote"
        class="mx-auto aspect-video max-h-[46vh] border border-(--rule)"
        data-part="stuck-picture"
      />
      <template v-else>
        <div class="relative overflow-hidden border border-(--rule) bg-white">
          <canvas
            ref="board"
            class="block aspect-video w-full"
          />
          <canvas
            ref="above"
            class="pointer-events-none absolute inset-0 aspect-video w-full"
          />
        </div>
        <div class="mt-3 flex items-center gap-3">
          <UButton
            :icon="playing ? 'i-lucide-pause' : 'i-lucide-play'"
            @click="replay?.toggle()"
          >
            {{ playing ? 'Pause' : 'Play' }}
          </UButton>
          <input
            type="range"
            class="grow accent-(--ui-primary)"
            min="0"
            :max="shown.lesson.duration"
            :value="time"
            aria-label="Place in the explanation"
            @input="seek"
          />
          <span
            class="text-sm tabular-nums"
            data-part="explained-time"
            :data-ms="Math.round(time)"
            >{{ clockTime(time) }} of {{ clockTime(shown.lesson.duration) }}</span
          >
        </div>
        <p
          v-if="silent || !shown.sound"
          class="mt-2 text-toned"
        >
          {{ silent ? 'The voice cannot be played in this browser.' : 'Recorded without a voice.' }}
        </p>
      </template>
      <p
        v-if="said"
        class="mt-3 border-l-4 border-(--ui-primary) bg-muted px-4 py-2 break-words whitespace-pre-wrap"
      >
        {{ said }}
      </p>
      <UFormField
        v-if="!store.readOnly"
        class="mt-4"
        label="Your answer"
        :help="
          of.kind === 'stuck'
            ? 'It stands there, at this step, from the next version on. No name is on it.'
            : 'It stands beside the question, from the next version on. No name is on it.'
        "
      >
        <UTextarea
          v-model="answer"
          class="w-full"
          :rows="2"
          :maxlength="4000"
          name="answer"
        />
      </UFormField>
    </template>
    <template #footer>
      <UButton
        v-if="!store.readOnly"
        :disabled="!answer.trim()"
        @click="reply"
      >
        Answer on the page
      </UButton>
      <UButton
        v-if="of.kind === 'stuck' && !store.readOnly"
        color="neutral"
        variant="outline"
        icon="i-lucide-list-plus"
        @click="handIns.recordAnswer(of)"
      >
        Record a step for it
      </UButton>
      <UButton
        :to="where"
        color="neutral"
        variant="outline"
      >
        Go there in Proof
      </UButton>
    </template>
  </UModal>
</template>
