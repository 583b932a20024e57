<script setup lang="ts">
import type { SoundFault } from '#core/sound'
import type { CameraFault } from '#core/recording'

/**
 * What is wrong with the sound or the camera of the running take, or with the room to store it. One sign for each, one
 * below the other.
 */
const recording = useRecording()
const camera = useCamera()
const WORDS: Record<SoundFault, { says: string; mend: string }> = {
  'lost': {
    says: 'No sound is coming.',
    mend: 'Ink and all sound until now are kept. Plug it in again, or take another one.',
  },
  'dropped': {
    says: 'A piece of sound was lost.',
    mend: 'Go back a step and say it again, or go on: the gap is noted.',
  },
  'mute': { says: 'The microphone is silent.', mend: 'Is it muted?' },
  'clipping': { says: 'Too loud: the voice is cut off.', mend: 'Move away a little, or turn the microphone down.' },
  'no-voice': { says: 'Not a word for a while.', mend: 'If that is meant, write on.' },
}
const SEEN: Record<CameraFault, { says: string; mend: string }> = {
  'camera-lost': { says: 'The camera is gone.', mend: 'Ink and sound go on. Plug it in again, or go on without it.' },
  'camera-still': {
    says: 'No picture is coming from the camera.',
    mend: 'Ink and sound go on. Turn it on anew, or go on without it.',
  },
  'camera-dark': { says: 'The camera’s picture is dark.', mend: 'Is its lid closed?' },
}
const settings = useSettings()
const others = computed(() =>
  recording.microphones
    .filter(m => m.id !== recording.chosen.id && m.id !== 'none')
    .map(m => ({ label: m.label, value: m.id })),
)
const first = computed(() => recording.warnings[0] ?? null)
const words = computed(() => {
  const known = first.value && WORDS[first.value.fault]
  return known && first.value?.fault === 'dropped' && !recording.stepped
    ? { ...known, mend: 'Go on, or begin again: the gap is noted.' }
    : known
})
</script>

<template>
  <div class="grid gap-1">
    <TakeSign
      v-if="recording.room === 'none'"
      icon="i-lucide-hard-drive"
      :says="
        recording.state === 'unstored'
          ? 'The end of the take is not stored.'
          : 'There is no room left to store the take.'
      "
      :mend="
        recording.state === 'unstored'
          ? 'It waits in this tab’s memory. Make room and store it, or save it to a file.'
          : 'It goes on in this tab’s memory. Save it to a file, or make room: remove videos or old folios in another tab.'
      "
      data-part="room-warning"
    >
      <UButton
        class="h-11 shrink-0 whitespace-nowrap"
        icon="i-lucide-download"
        @click="recording.saveToFile"
      >
        Save to a file
      </UButton>
    </TakeSign>
    <TakeSign
      v-if="first && words && recording.state === 'running'"
      icon="i-lucide-mic-off"
      v-bind="words"
      data-part="sound-warning"
      :data-fault="first.fault"
    >
      <UButton
        v-if="first.fault === 'lost'"
        class="h-11 shrink-0 whitespace-nowrap"
        @click="recording.plugInAgain"
      >
        Listen again
      </UButton>
      <USelect
        v-if="first.fault === 'lost' && others.length"
        :items="others"
        placeholder="Another microphone"
        class="h-11 w-48 shrink-0"
        aria-label="Go on with another microphone"
        @update:model-value="
          (id: string) => {
            settings.remembered.microphone = id
            void recording.plugInAgain()
          }
        "
      />
      <UButton
        v-if="recording.stepped && (first.fault === 'lost' || first.fault === 'dropped')"
        color="neutral"
        variant="outline"
        class="h-11 shrink-0 whitespace-nowrap"
        @click="recording.goBack"
      >
        Back a step <kbd class="key">⌫</kbd>
      </UButton>
    </TakeSign>
    <TakeSign
      v-if="recording.cameraWarning && recording.state === 'running'"
      icon="i-lucide-video-off"
      v-bind="SEEN[recording.cameraWarning.fault]"
      data-part="camera-warning"
      :data-fault="recording.cameraWarning.fault"
    >
      <UButton
        v-if="recording.cameraWarning.fault !== 'camera-dark'"
        class="h-11 shrink-0 whitespace-nowrap"
        :loading="camera.opening"
        @click="camera.switchOn()"
      >
        Turn it on
      </UButton>
      <UButton
        color="neutral"
        variant="outline"
        class="h-11 shrink-0 whitespace-nowrap"
        @click="camera.switchOff"
      >
        Go on without
      </UButton>
    </TakeSign>
    <p
      v-if="recording.room === 'little' && recording.active"
      class="border-2 border-(--rule) bg-default px-3 py-2 text-sm"
      role="status"
      data-part="room-warning"
    >
      <strong>More than nine tenths of the browser’s room is in use.</strong> After this take, save old folios as files
      and remove them, or remove videos under Publish.
    </p>
  </div>
</template>
