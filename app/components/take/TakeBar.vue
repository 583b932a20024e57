<script setup lang="ts">
import { clockTime } from '#core/publish'

/**
 * What a running take shows above the board: that it runs, how long, the level of the voice, and the large buttons of
 * the take.
 */
const props = defineProps<{
  writing: boolean
  referring: boolean
  canRefer: boolean
  target: number
  next: string | null
}>()
defineEmits<{ write: []; refer: []; stop: []; next: [] }>()
const recording = useRecording()
const settings = useSettings()
const over = computed(() => props.target > 0 && recording.kept > props.target)
const NAMES = {
  plain: 'Taking',
  anew: 'Taking',
  voice: 'Talking over',
  ink: 'Writing over',
  practice: 'Practice',
  clip: 'Taking',
} as const
const running = computed(() => recording.state === 'running')
</script>

<template>
  <div class="flex min-w-0 grow items-center gap-2 max-[1100px]:gap-1">
    <p
      class="flex items-center gap-2.5 text-lg font-bold text-(--taking)"
      role="status"
      data-part="taking"
    >
      <span
        class="size-3.5 bg-(--taking)"
        :class="recording.state === 'paused' || recording.state === 'unstored' ? '' : 'rounded-full'"
      />
      {{
        recording.state === 'counting'
          ? 'Ready'
          : recording.state === 'paused'
            ? 'Paused'
            : recording.state === 'unstored'
              ? 'Not stored'
              : NAMES[recording.kind]
      }}
      <span class="serif text-2xl tabular-nums">{{ clockTime(recording.kept) }}</span>
    </p>
    <span
      v-if="target"
      class="text-sm whitespace-nowrap text-toned"
      data-part="target"
      :title="over ? 'Longer than planned' : 'Planned for this question'"
      >of {{ clockTime(target) }}{{ over ? ', over' : '' }}</span
    >
    <span
      v-if="recording.inkEnds"
      class="text-sm whitespace-nowrap text-toned"
      data-part="ink-ends"
      >{{
        recording.elapsed < recording.inkEnds ? `the ink ends at ${clockTime(recording.inkEnds)}` : 'the ink has ended'
      }}</span
    >
    <LevelBar
      v-if="recording.chosen.id !== 'none' && recording.kind !== 'ink'"
      :level="recording.level"
    />
    <span class="ml-auto" />
    <UButton
      v-if="settings.remembered.pen === 'sim:pen' && !recording.played"
      color="neutral"
      variant="ghost"
      class="h-11"
      icon="i-lucide-pen-line"
      aria-label="Write with the simulated pen"
      :disabled="writing || !running"
      @click="$emit('write')"
    >
      <kbd class="key">W</kbd>
    </UButton>
    <UButton
      v-if="canRefer && !recording.played"
      color="neutral"
      variant="ghost"
      class="h-11"
      icon="i-lucide-undo-dot"
      title="Refer to another question, and back"
      aria-label="Refer to another question, and back"
      :aria-pressed="referring"
      :disabled="!running"
      @click="$emit('refer')"
    >
      <kbd class="key">Q</kbd>
    </UButton>
    <UButton
      v-if="recording.stepped"
      color="neutral"
      variant="outline"
      class="h-11"
      icon="i-lucide-hand"
      :disabled="!running"
      title="The student is asked to try here"
      @click="recording.yourTurn"
    >
      <span class="wide">Your turn</span> <kbd class="key">J</kbd>
    </UButton>
    <UButton
      v-if="recording.stepped"
      color="neutral"
      variant="outline"
      class="h-11"
      icon="i-lucide-undo-2"
      title="Takes ink, sound and steps back to the last step mark; again for the one before"
      @click="recording.goBack"
    >
      Back <span class="wider">a step</span> <kbd class="key">⌫</kbd>
    </UButton>
    <UButton
      v-if="recording.stepped"
      class="h-11"
      icon="i-lucide-flag"
      :disabled="!running"
      @click="recording.markStep"
    >
      Step <kbd class="key">Space</kbd>
    </UButton>
    <UButton
      class="h-11"
      color="neutral"
      variant="outline"
      :icon="recording.state === 'paused' ? 'i-lucide-play' : 'i-lucide-pause'"
      :disabled="!running && recording.state !== 'paused'"
      @click="recording.pauseOrGoOn"
    >
      {{ recording.state === 'paused' ? 'Go on' : 'Pause' }} <kbd class="key">P</kbd>
    </UButton>
    <UButton
      v-if="next"
      class="h-11"
      color="neutral"
      variant="outline"
      icon="i-lucide-arrow-down-to-line"
      :disabled="!running && recording.state !== 'paused'"
      :title="`This take ends, and that of question ${next} begins`"
      @click="$emit('next')"
    >
      <span class="wide">To {{ next }}</span> <kbd class="key">PgDn</kbd>
    </UButton>
    <UButton
      class="h-11"
      color="neutral"
      variant="outline"
      icon="i-lucide-square"
      @click="$emit('stop')"
    >
      {{ recording.state === 'unstored' ? 'Store it' : 'Stop' }} <kbd class="key">S</kbd>
    </UButton>
  </div>
</template>

<style scoped>
@media (max-width: 1400px) {
  .wider {
    display: none;
  }
}
@media (max-width: 1200px) {
  .wide {
    display: none;
  }
}
:deep(button) {
  flex: none;
  white-space: nowrap;
}
@media (max-width: 1100px) {
  :deep(button) {
    padding-inline: 0.5rem;
  }
}
</style>
