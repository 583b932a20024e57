<script setup lang="ts">
import { clockTime } from '#core/publish'

/** What a running take shows above the board: that it runs, how long, the level of the voice, and the large buttons of the take. */
defineProps<{ writing: boolean, referring: boolean, canRefer: boolean }>()
defineEmits<{ write: [], refer: [], stop: [] }>()
const recording = useRecording()
const settings = useSettings()
</script>

<template>
  <div class="flex min-w-0 grow items-center gap-3">
    <p
      class="flex items-center gap-3 text-lg font-bold text-(--taking)"
      role="status"
      data-part="taking"
    >
      <span
        class="size-3.5 bg-(--taking)"
        :class="recording.state === 'paused' ? '' : 'rounded-full'"
      />
      {{ recording.state === 'counting' ? 'Ready' : recording.state === 'paused' ? 'Paused' : 'Taking' }}
      <span class="serif text-2xl">{{ clockTime(recording.elapsed) }}</span>
    </p>
    <LevelBar
      v-if="recording.chosen.id !== 'none'"
      :level="recording.level"
    />
    <span
      v-if="recording.soundLost"
      class="border border-(--taking) px-2 py-1 text-sm font-bold text-(--taking)"
    >No sound</span>
    <span class="ml-auto" />
    <UButton
      v-if="canRefer"
      color="neutral"
      variant="ghost"
      class="h-11"
      icon="i-lucide-undo-dot"
      title="Refer to another question, and back"
      :aria-pressed="referring"
      :disabled="recording.state !== 'running'"
      @click="$emit('refer')"
    >
      Refer <kbd class="key">Q</kbd>
    </UButton>
    <UButton
      v-if="settings.remembered.pen === 'sim:pen'"
      color="neutral"
      variant="outline"
      class="h-11"
      icon="i-lucide-pen-line"
      :disabled="writing || recording.state !== 'running'"
      @click="$emit('write')"
    >
      Write <kbd class="key">W</kbd>
    </UButton>
    <UButton
      size="xl"
      class="h-11"
      icon="i-lucide-flag"
      :disabled="recording.state !== 'running'"
      @click="recording.markStep"
    >
      Step <kbd class="key">Space</kbd>
    </UButton>
    <UButton
      size="xl"
      class="h-11"
      color="neutral"
      variant="outline"
      :icon="recording.state === 'paused' ? 'i-lucide-play' : 'i-lucide-pause'"
      :disabled="recording.state === 'counting'"
      @click="recording.pauseOrGoOn"
    >
      {{ recording.state === 'paused' ? 'Go on' : 'Pause' }} <kbd class="key">P</kbd>
    </UButton>
    <UButton
      size="xl"
      class="h-11"
      color="neutral"
      variant="outline"
      icon="i-lucide-square"
      @click="$emit('stop')"
    >
      Stop <kbd class="key">S</kbd>
    </UButton>
  </div>
</template>
