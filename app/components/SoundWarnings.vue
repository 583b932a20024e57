<script setup lang="ts">
import type { SoundFault } from '#core/sound'

/** What is wrong with the sound of the running take. It cannot be overlooked, and stops nothing. */
const recording = useRecording()
const WORDS: Record<SoundFault, { says: string, mend: string }> = {
  'lost': { says: 'No sound is coming.', mend: 'Ink and all sound until now are kept. Plug the microphone in again.' },
  'dropped': { says: 'A piece of sound was lost.', mend: 'Go back a step and say it again, or go on: the gap is noted.' },
  'mute': { says: 'The microphone is silent.', mend: 'Is it muted?' },
  'clipping': { says: 'Too loud: the voice is cut off.', mend: 'Move away a little, or turn the microphone down.' },
  'no-voice': { says: 'Not a word for a while.', mend: 'If that is meant, write on.' },
}
const first = computed(() => recording.warnings[0] ?? null)
</script>

<template>
  <div
    v-if="first && recording.state === 'running'"
    class="flex items-center gap-3 border-2 border-(--taking) bg-default px-3 py-1 text-sm"
    role="alert"
    data-part="sound-warning"
    :data-fault="first.fault"
  >
    <UIcon
      name="i-lucide-mic-off"
      class="size-6 shrink-0 text-(--taking)"
    />
    <p class="grow">
      <strong class="text-base">{{ WORDS[first.fault].says }}</strong> {{ WORDS[first.fault].mend }}
    </p>
    <UButton
      v-if="first.fault === 'lost'"
      class="h-11"
      @click="recording.plugInAgain"
    >
      Listen again
    </UButton>
    <UButton
      v-if="first.fault === 'lost' || first.fault === 'dropped'"
      color="neutral"
      variant="outline"
      class="h-11"
      @click="recording.goBack"
    >
      Back a step <kbd class="key">⌫</kbd>
    </UButton>
  </div>
</template>
