<script setup lang="ts">
import { CLIP_PLACES, type ClipPlace, type Question } from '#core/folio'
import { clockTime } from '#core/publish'
import type { ClipOf } from '../../stores/clips'

/** Clips of the teacher alone, before or after a question or the whole folio. */
const props = defineProps<{ question: Question }>()
const emit = defineEmits<{ close: [] }>()
const store = useFolio()
const clips = useClips()
const camera = useCamera()
const recording = useRecording()
const open = computed({
  get: () => true,
  set: () => {
    if (recording.state === 'rest') emit('close')
  },
})
const NAMES: Record<ClipPlace, string> = { opening: 'Opening', end: 'End' }
const places = computed(() =>
  [props.question, null].flatMap(question =>
    CLIP_PLACES.map(place => ({
      question,
      place,
      name: `${NAMES[place]} of ${question ? `question ${question.number}` : 'the whole folio'}`,
    })),
  ),
)
const chosen = ref(0)
const of = computed<ClipOf & { name: string }>(() => places.value[chosen.value]!)
const clip = computed(() => clips.clipOf(of.value))
const live = ref<HTMLVideoElement>()
watch(
  [live, () => camera.camera],
  () => {
    if (live.value) live.value.srcObject = camera.camera?.stream ?? null
  },
  { flush: 'post' },
)
watch(
  chosen,
  () => {
    void clips.choose(of.value)
  },
  { immediate: true },
)
onBeforeUnmount(clips.close)
const busy = computed(() => recording.state !== 'rest')
const words = (event: Event) => clips.say((event.target as HTMLTextAreaElement).value)
</script>

<template>
  <UModal
    v-model:open="open"
    title="Clips of you"
    description="A few words before a question or after it. They are optional, and stand in the videos as a chapter of their own; the student page plays the solution without them."
    :dismissible="!busy"
    :close="!busy"
    :ui="{ content: 'max-w-4xl' }"
  >
    <template #body>
      <div
        class="grid grid-cols-[1fr_17rem] gap-5"
        data-part="clips"
      >
        <div class="flex min-w-0 flex-col gap-3">
          <ClipPlayer
            v-if="clips.watched && !busy"
            :key="clips.watched.takeId"
            :track="clips.watched.track"
            :sound="clips.watched.sound"
          />
          <div
            v-else
            class="relative aspect-video w-full overflow-hidden border border-(--rule) bg-(--ui-bg-elevated)"
          >
            <video
              v-if="camera.on"
              ref="live"
              autoplay
              muted
              playsinline
              class="size-full -scale-x-100 object-cover"
              aria-label="Your picture"
            />
            <div
              v-else
              class="grid size-full place-content-center justify-items-center gap-3 p-6 text-center text-toned"
            >
              <p>The camera is off. A clip can also be a voice alone.</p>
              <UButton
                color="neutral"
                variant="outline"
                class="h-11"
                icon="i-lucide-video"
                :loading="camera.opening"
                @click="camera.switchOn()"
              >
                Turn the camera on
              </UButton>
            </div>
            <span
              v-if="recording.state === 'counting'"
              class="serif absolute inset-0 m-auto grid size-28 place-items-center border-2 border-(--taking) bg-default text-6xl text-(--taking)"
              role="status"
              >{{ recording.countdown || 1 }}</span
            >
          </div>
          <div class="flex min-h-11 items-center gap-3">
            <template
              v-if="recording.state === 'running' || recording.state === 'paused' || recording.state === 'unstored'"
            >
              <p
                class="flex items-center gap-2 text-lg font-bold text-(--taking)"
                role="status"
                data-part="clip-taking"
              >
                {{ recording.state === 'paused' ? 'Paused' : 'Taking' }}
                <span class="serif text-xl tabular-nums">{{ clockTime(recording.elapsed) }}</span>
              </p>
              <LevelBar
                v-if="recording.chosen.id !== 'none'"
                :level="recording.level"
              />
              <UButton
                color="neutral"
                variant="outline"
                class="ml-auto h-11"
                :icon="recording.state === 'paused' ? 'i-lucide-play' : 'i-lucide-pause'"
                @click="recording.pauseOrGoOn"
              >
                {{ recording.state === 'paused' ? 'Go on' : 'Pause' }}
              </UButton>
              <UButton
                class="h-11"
                icon="i-lucide-square"
                @click="clips.stop"
              >
                Stop the clip <kbd class="key">S</kbd>
              </UButton>
            </template>
            <p
              v-else-if="recording.state === 'settling'"
              role="status"
            >
              Putting the clip together
            </p>
            <UButton
              v-else-if="recording.state === 'counting'"
              color="neutral"
              variant="outline"
              class="h-11"
              @click="recording.stop"
            >
              Leave it
            </UButton>
            <template v-else>
              <UButton
                color="error"
                class="h-11"
                icon="i-lucide-circle"
                :disabled="store.readOnly"
                @click="clips.record"
              >
                {{ clip ? 'Record it anew' : 'Record the clip' }} <kbd class="key">R</kbd>
              </UButton>
              <UButton
                v-if="clip"
                color="neutral"
                variant="outline"
                class="h-11"
                icon="i-lucide-trash-2"
                :disabled="store.readOnly"
                @click="clips.remove"
              >
                Take it out
              </UButton>
            </template>
          </div>
          <TakeWarnings />
          <UFormField
            v-if="clip && !busy"
            label="What you say, for captions"
          >
            <UTextarea
              :model-value="clip.said"
              :rows="2"
              :maxlength="2000"
              class="w-full"
              @change="words"
            />
          </UFormField>
        </div>
        <ul class="flex flex-col gap-2">
          <li
            v-for="(place, i) in places"
            :key="place.name"
          >
            <button
              type="button"
              class="place w-full border border-(--rule) px-3 py-2 text-left"
              :class="{ chosen: i === chosen }"
              :aria-pressed="i === chosen"
              :disabled="busy"
              @click="chosen = i"
            >
              {{ place.name }}
              <span class="block text-sm text-toned">{{
                clips.takeOf(place) ? clockTime(clips.takeOf(place)!.durationMs) : 'none'
              }}</span>
            </button>
          </li>
          <li class="mt-auto text-sm text-toned">Microphone: {{ recording.chosen.label }}</li>
        </ul>
      </div>
    </template>
  </UModal>
</template>

<style scoped>
.place {
  min-height: 3.5rem;
}
.place.chosen {
  box-shadow: inset 4px 0 0 var(--frame);
  font-weight: 700;
  background: var(--ui-bg-elevated);
}
</style>
